import { useCallback, useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";
import { useKept } from "../../ui/useKept";

const PAUSE_MS = 8000;

type Part = Schemas["PartOut"];
type Draft = { text: string; follows: string | null };

/**
 * Writing one part: what is typed is kept in this tab at every stroke, on this device after a pause (or when the field or
 * the page is left), and sent from there. `follows` is what stood there when the writing began.
 */
export function useWriting(part: Part, outbox: Outbox) {
  const [draft, setDraft, forget] = useKept<Draft | null>(`${outbox.group}:words:${part.key}`, null);
  const waiting = only(outbox.waiting, "words").filter((one) => one.body.part === part.key && one.refusal === null);
  const refused = only(outbox.waiting, "words").filter((one) => one.body.part === part.key && one.refusal !== null);
  const last = waiting.at(-1);
  const newest = last && !part.recent.includes(last.id) ? { ...last.body } : part;
  const text = draft?.text ?? newest.text;
  const cites = newest.cites ?? [];
  const { add } = outbox;

  const keep = useCallback(
    (body: { text: string; cites: Schemas["Cite"][]; follows: string | null }) => {
      const id = newId();
      void add({
        kind: "words",
        id,
        cell_id: "",
        body: { id, part: part.key, device_at: new Date().toISOString(), ...body },
      });
    },
    [add, part.key],
  );

  const state = useRef({ draft, newest, cites });
  useEffect(() => {
    state.current = { draft, newest, cites };
  });

  /** Put what is typed on the device as a version, if it is another text than the newest. */
  const settle = useCallback(() => {
    const { draft: typed, newest: before, cites: pointed } = state.current;
    if (!typed) return;
    if (typed.text.trim() !== before.text.trim()) keep({ text: typed.text, cites: pointed, follows: typed.follows });
    setDraft(null);
    forget();
  }, [keep, setDraft, forget]);

  useEffect(() => {
    if (!draft) return;
    const timer = setTimeout(settle, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [draft, settle]);

  useEffect(() => {
    const hidden = () => document.visibilityState === "hidden" && settle();
    document.addEventListener("visibilitychange", hidden);
    window.addEventListener("pagehide", settle);
    return () => {
      document.removeEventListener("visibilitychange", hidden);
      window.removeEventListener("pagehide", settle);
      settle();
    };
  }, [settle]);

  const follows = last?.id ?? part.id;
  return {
    text,
    cites,
    unsent: waiting.filter((one) => !one.sent).length > 0,
    held: waiting.find((one) => one.held)?.held?.message ?? null,
    refused,
    typing: draft !== null,
    write: (typed: string) => setDraft((now) => ({ text: typed, follows: now?.follows ?? follows })),
    settle,
    cite: (pointed: Schemas["Cite"][]) => {
      keep({ text, cites: pointed, follows });
      setDraft(null);
    },
    take: (version: Schemas["VersionOut"]) => {
      keep({ text: version.text, cites: version.cites, follows });
      setDraft(null);
    },
  };
}
