import type { Schemas } from "../api/client";
import { TextButton } from "../ui/Button";
import type { MarginNote } from "../ui/Notes";

export type Action = NonNullable<Schemas["NoteOut"]["action"]>;

/** Notes whose action has nothing to act on yet. */
export const withoutActions = (notes: Schemas["NoteOut"][]): MarginNote[] =>
  notes.map(({ code, tone, title, text, evidence }) => ({ code, tone, title, text, evidence }));

/** Notes with their actions as buttons. */
export const withActions = (notes: Schemas["NoteOut"][], act: ((action: Action) => void) | null): MarginNote[] =>
  notes.map(({ action, ...note }) => ({
    ...note,
    action: action && act ? <TextButton onPress={() => act(action)}>{action.label}</TextButton> : undefined,
  }));
