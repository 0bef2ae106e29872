import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useTagLab } from "../../api/years";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Row } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

type Props = { lab: Schemas["LabListed"]; find: (tag: string) => void };

/** A lab's tags: a press finds all labs that have one; whoever may work in the lab changes them. */
export function Tags({ lab, find }: Props) {
  const tag = useTagLab();
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null)
    return (
      <Row>
        {lab.tags.map((one) => (
          <TextButton key={one} onPress={() => find(one)} aria-label={t`Find labs tagged ${one}`}>
            {one}
          </TextButton>
        ))}
        {lab.way !== "look" && (
          <TextButton onPress={() => setTyped(lab.tags.join(", "))} aria-label={t`Tags of ${lab.title}`}>
            {lab.tags.length > 0 ? t`change tags` : t`add a tag`}
          </TextButton>
        )}
      </Row>
    );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        tag.mutate({ id: lab.id, tags: typed.split(",") }, { onSuccess: () => setTyped(null) });
      }}
    >
      <TextField
        label={t`Tags, with commas between them`}
        value={typed}
        onChange={setTyped}
        maxLength={280}
        autoFocus
      />
      <Row>
        <Button type="submit">
          <Trans>Keep the tags</Trans>
        </Button>
        <TextButton onPress={() => setTyped(null)}>
          <Trans>Leave them</Trans>
        </TextButton>
      </Row>
      <ProblemNote problem={tag.error} />
    </form>
  );
}
