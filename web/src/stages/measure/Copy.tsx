import { t } from "@lingui/core/macro";
import { useState } from "react";
import { TextButton } from "../../ui/Button";

/** Copy a number that was not kept, so that it is not lost with the page. Where the browser has no clipboard, select it. */
export function Copy({ text }: { text: string }) {
  const [done, setDone] = useState(false);
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
    } catch {
      const field = document.createElement("textarea");
      field.value = text;
      document.body.append(field);
      field.select();
      document.execCommand("copy");
      field.remove();
    }
    setDone(true);
  };
  return (
    <TextButton onPress={() => void copy()} aria-label={t`Copy ${text}`}>
      {done ? t`Copied` : t`Copy`}
    </TextButton>
  );
}
