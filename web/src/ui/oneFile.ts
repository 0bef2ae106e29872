/** A part of a page as one file that needs nothing else: its styles, fonts and pictures are in it. */

async function asData(url: string): Promise<string> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
  const blob = await answer.blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error ?? new Error("unreadable"));
    reader.readAsDataURL(blob);
  });
}

/** Every rule of the page's styles; fonts of the letters a page here is made of are put in, others left out. */
async function styles(): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) =>
    [...sheet.cssRules].map((rule) => ({ rule, base: sheet.href ?? location.href })),
  );
  const texts = await Promise.all(
    rules.map(async ({ rule, base }) => {
      if (!(rule instanceof CSSFontFaceRule)) return rule.cssText;
      const url = /url\(["']?([^"')]+)["']?\)/.exec(rule.cssText);
      const latin = rule.style.getPropertyValue("unicode-range").toUpperCase().startsWith("U+0-FF");
      if (!url?.[1] || !latin) return "";
      return rule.cssText.replace(url[0], `url("${await asData(new URL(url[1], base).href)}")`);
    }),
  );
  return texts.filter(Boolean).join("\n");
}

const escaped = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;");

/** The element as a whole page in one file. Throws where a picture or a font cannot be fetched: then there is no file. */
export async function oneFile(element: Element, title: string): Promise<Blob> {
  const copy = element.cloneNode(true) as Element;
  for (const control of copy.querySelectorAll("button, input, textarea, select, script, [data-not-in-file]"))
    control.remove();
  for (const hidden of copy.querySelectorAll<HTMLElement>("[data-on-paper]")) hidden.style.display = "block";
  for (const shown of copy.querySelectorAll("[tabindex]")) shown.removeAttribute("tabindex");
  for (const link of copy.querySelectorAll("a[href]:not([href^='#'])")) link.replaceWith(...link.childNodes); // leads nowhere
  for (const picture of copy.querySelectorAll("img")) picture.src = await asData(picture.src);
  const html = `<!doctype html>
<html lang="${document.documentElement.lang || "en"}">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:">
<title>${escaped(title)}</title>
<style>${(await styles()).replaceAll("</", "<\\/")}</style></head>
<body class="one-file">${copy.outerHTML}</body></html>
`;
  return new Blob([html], { type: "text/html" });
}

/** Hand a file to the reader under a name. */
export function download(file: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** A title as the name of a file. */
export const fileName = (title: string, ending: string) =>
  `${
    title
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .replace(/^-|-$/g, "") || "notebook"
  }.${ending}`;
