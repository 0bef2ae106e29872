import { useEffect, useRef } from "react";

/** Where a letter is a letter: fields for words. Fields for numbers take no letters, so shortcuts work in them. */
function isForWords(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement) return true;
  if (!(target instanceof HTMLInputElement)) return false;
  return (
    ["text", "search", "password", "email", "date", "file"].includes(target.type) && target.inputMode !== "decimal"
  );
}

/** Whether something is focused that does something of its own with Enter. */
export const hasOwnEnter = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("a, button, input, textarea, select, summary, [role=option]") !== null;

/** Whether arrow keys are wanted where the focus is: among choices, on a slider, in a text that has something in it. */
function hasOwnArrows(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement) return true;
  if (target instanceof HTMLInputElement) return target.type !== "checkbox" && target.value !== "";
  return (
    target instanceof Element &&
    target.closest("[role=radiogroup], [role=listbox], [role=menu], [role=slider]") !== null
  );
}

/** Hear keys wherever the focus is on the page; `press` says whether a key stood for something. */
export function useShortcuts(press: (key: string, target: EventTarget | null) => boolean): void {
  const pressing = useRef(press);
  useEffect(() => {
    pressing.current = press;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey || event.ctrlKey || event.metaKey) return;
      const arrow = event.key.startsWith("Arrow");
      if (arrow ? hasOwnArrows(event.target) : isForWords(event.target)) return;
      if (pressing.current(event.key, event.target)) event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

/** Put the focus where typing goes on; not on a phone, where that would bring up the keypad unasked. */
export function focusOn(field: HTMLElement | null): void {
  if (matchMedia("(hover: hover)").matches) field?.focus();
}
