import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useDeleteLab, useDeletedLabs, useUndeleteLab } from "../../api/labs";
import { day } from "../../format";
import { Button, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Row, Small, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

/** Delete a lab by typing its title; it can be taken back for thirty days. */
export function DeleteLab({ id, title }: { id: string; title: string }) {
  const remove = useDeleteLab();
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null)
    return (
      <TextButton onPress={() => setTyped("")} aria-label={t`Delete ${title}`}>
        <Trans>Delete</Trans>
      </TextButton>
    );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        remove.mutate({ id, title: typed });
      }}
    >
      <TextField
        label={t`Type “${title}” to delete it`}
        hint={t`Its groups are out at once. You can take it back for 30 days; then it is gone, with its photographs.`}
        value={typed}
        onChange={setTyped}
        maxLength={200}
        autoComplete="off"
        autoFocus
      />
      <Row>
        <Button type="submit">
          <Trans>Delete the lab</Trans>
        </Button>
        <TextButton onPress={() => setTyped(null)}>
          <Trans>Keep the lab</Trans>
        </TextButton>
      </Row>
      <ProblemNote problem={remove.error} />
    </form>
  );
}

/** Labs that were deleted and can still be taken back. */
export function DeletedLabs() {
  const labs = useDeletedLabs();
  const undelete = useUndeleteLab();
  if (!labs.data?.length) return <ProblemNote problem={labs.data ? null : labs.error} />;
  return (
    <Disclosure title={t`Deleted labs`} detail={t`${labs.data.length}, kept for 30 days`}>
      <ul>
        {labs.data.map((lab) => (
          <li key={lab.id}>
            {lab.title}{" "}
            <Small>
              <Trans>
                of {day(lab.date)}, gone for good on {day(lab.gone_on)}
              </Trans>
            </Small>{" "}
            <TextButton onPress={() => undelete.mutate(lab.id)} aria-label={t`Take ${lab.title} back`}>
              <Trans>Take it back</Trans>
            </TextButton>
          </li>
        ))}
      </ul>
      <Soft>
        <Trans>What is taken back is as it was; its groups join again with the same code and PINs.</Trans>
      </Soft>
      <ProblemNote problem={undelete.error} />
    </Disclosure>
  );
}
