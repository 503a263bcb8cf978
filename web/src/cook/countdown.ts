/** Time that is left, as it counts down; pure. */

/** “12:05”, “1:02:05”, and with a minus what is over. */
export function countdown(seconds: number): string {
  const whole = Math.floor(Math.abs(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const two = (figure: number) => String(figure).padStart(2, "0");
  const said = hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
  return seconds < 0 ? `−${said}` : said;
}
