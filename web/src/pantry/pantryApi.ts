/** Server state of the pantry: found by any name, added to, changed, as a file. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import type { Ingredient, Region } from "../api/types";
import { houseKey } from "../app/queries";

export const searchQuery = (text: string) =>
  queryOptions({
    queryKey: houseKey("pantry", "search", text),
    queryFn: ({ signal }) =>
      answered(client.GET("/api/pantry/search", { params: { query: { q: text } }, signal })),
    placeholderData: (before) => before,
  });

export const ingredientQuery = (id: string) =>
  queryOptions({
    queryKey: houseKey("pantry", "one", id),
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/pantry/{ingredient_id}", { params: { path: { ingredient_id: id } }, signal }),
      ),
  });

export const packetRowsQuery = (region: Region) =>
  queryOptions({
    queryKey: houseKey("packet rows", region),
    queryFn: ({ signal }) =>
      answered(client.GET("/api/pantry/packet-rows", { params: { query: { region } }, signal })),
  });

/** The house’s newest revision: ingredients of one’s own are kept there. */
const houseRevision = async () => (await answered(client.GET("/api/kitchen"))).revision;

export const addFromPacket = async (packet: {
  name: string;
  region: Region;
  serving: string;
  rows: Record<string, string>;
  statement: string;
}) => answered(client.POST("/api/pantry/packet", { body: { revision: await houseRevision(), ...packet } }));

export const keepComponent = async (matchId: string, versionId: string, layerId: string, name: string) =>
  answered(
    client.POST("/api/pantry/component", {
      body: {
        revision: await houseRevision(),
        match_id: matchId,
        version_id: versionId,
        layer_id: layerId,
        name,
      },
    }),
  );

export const writeIngredient = (revision: number, ingredient: Ingredient) =>
  answered(
    client.PUT("/api/pantry/{ingredient_id}", {
      params: { path: { ingredient_id: ingredient.id } },
      body: { revision, ingredient },
    }),
  );

export const dropIngredient = async (id: string) =>
  answered(
    client.DELETE("/api/pantry/{ingredient_id}", {
      params: { path: { ingredient_id: id } },
      body: { revision: await houseRevision() },
    }),
  );

/** What a file would add and change; nothing is kept yet. */
export const previewPantry = async (text: string) =>
  answered(client.POST("/api/pantry/import/preview", { body: { revision: await houseRevision(), text } }));

export const importPantry = async (text: string) =>
  answered(client.POST("/api/pantry/import", { body: { revision: await houseRevision(), text } }));

/** The text of a file as spreadsheets write it: UTF-8, or the older western encoding where it cannot be that. */
export async function fileText(file: File): Promise<string> {
  const bytes = await file.arrayBuffer();
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}
