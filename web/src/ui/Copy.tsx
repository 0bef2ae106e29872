import { t } from "@lingui/core/macro";
import { useState } from "react";
import { TextButton } from "./Button";

/** Copy what would be lost with the page. A browser has no clipboard on plain http, and may refuse it: then it is selected. */
export function Copy({ text, label }: { text: string; label?: string }) {
  const [done, setDone] = useState<boolean>();
  return (
    <TextButton onPress={() => void copied(text).then(setDone)} aria-label={label ? undefined : t`Copy ${text}`}>
      {done ? t`Copied` : done === false ? t`This browser does not copy` : (label ?? t`Copy`)}
    </TextButton>
  );
}

/** Whether a text went to the clipboard. */
async function copied(text: string): Promise<boolean> {
  try {
    // eslint-disable-next-line no-restricted-syntax -- where there is none, the text is selected below
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    const field = document.createElement("textarea");
    field.value = text;
    document.body.append(field);
    field.select();
    const done = document.execCommand("copy");
    field.remove();
    return done;
  }
}
