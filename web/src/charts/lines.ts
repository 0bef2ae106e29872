/** Words on lines of at most `most` letters; a longer word stands alone. */
export function linesOf(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** At most `most` letters of a text, and a sign that there are more. */
export const shortened = (text: string, most: number): string =>
  text.length <= most ? text : `${text.slice(0, Math.max(1, most - 1)).trimEnd()}…`;
