import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useForgotten } from "../api/school";
import { TextButton } from "../ui/Button";
import { Soft } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";

/** Ask for a link by mail; who else helps is said where there is no mail. */
export function Forgotten({ username }: { username: string }) {
  const ask = useForgotten();
  const name = username.trim();
  if (ask.isSuccess)
    return (
      <Soft role="status">
        <Trans>If {ask.variables} has an address for mail here, a link is on its way to it.</Trans>
      </Soft>
    );
  return (
    <>
      <p>
        <TextButton isDisabled={name === ""} onPress={() => ask.mutate(name)}>
          {name === "" ? t`Password forgotten? Type your name first` : t`Password forgotten?`}
        </TextButton>
      </p>
      <ProblemNote problem={ask.error} />
    </>
  );
}
