import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useRenameLab } from "../../api/labs";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Row } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

/** Another title for a lab, whether it is planned, open or closed. */
export function Rename({ id, title }: { id: string; title: string }) {
  const rename = useRenameLab();
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null)
    return (
      <Button onPress={() => setTyped(title)}>
        <Trans>Rename this lab</Trans>
      </Button>
    );
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        rename.mutate({ id, title: typed }, { onSuccess: () => setTyped(null) });
      }}
    >
      <TextField label={t`Title`} value={typed} onChange={setTyped} maxLength={120} isRequired autoFocus />
      <Row>
        <Button type="submit">
          <Trans>Keep this title</Trans>
        </Button>
        <TextButton onPress={() => setTyped(null)}>
          <Trans>Leave it as it is</Trans>
        </TextButton>
      </Row>
      <ProblemNote problem={rename.error} />
    </Form>
  );
}
