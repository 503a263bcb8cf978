/** The recipe that a version was taken from, as it was pasted: its title, its lines, its method. */
export function AsItWas({ recipe }: { recipe: string }) {
  if (!recipe) return null;
  return (
    <details className="mb-3 rounded-lg border border-line bg-card px-4 py-2">
      <summary className="cursor-pointer font-head font-semibold">The recipe as it was</summary>
      <p className="mt-2 max-w-3xl text-sm whitespace-pre-wrap">{recipe}</p>
    </details>
  );
}
