const NOTHING = { code: "", pin: "", inPin: false, refused: "" };

/** What was typed into the form that stands on the page before the application is here, and what was said of it. */
export let typedBefore = NOTHING;

/** Draw in the form's place, with what was typed in it; the next who joins here finds nothing of it. */
export function drawnInPlace(draw: () => void): void {
  const form = document.querySelector<HTMLFormElement>("#first form");
  const typed = (name: string) => form?.querySelector<HTMLInputElement>(`[name=${name}]`)?.value ?? "";
  typedBefore = {
    code: typed("code"),
    pin: typed("pin"),
    inPin: document.activeElement?.getAttribute("name") === "pin",
    refused: form?.querySelector("[role=alert]")?.textContent ?? "",
  };
  draw();
  typedBefore = NOTHING;
}
