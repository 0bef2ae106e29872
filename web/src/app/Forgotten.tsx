import { useForgotten } from "../api/school";
import { TextButton } from "../ui/Button";
import { Soft } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";

/** Ask for a link by mail; who else helps is said where there is no mail. */
export function Forgotten({ username }: { username: string }) {
  const ask = useForgotten();
  const name = username.trim();
  if (ask.isSuccess)
    return <Soft role="status">If {ask.variables} has an address for mail here, a link is on its way to it.</Soft>;
  return (
    <>
      <p>
        <TextButton isDisabled={name === ""} onPress={() => ask.mutate(name)}>
          {name === "" ? "Password forgotten? Type your name first" : "Password forgotten?"}
        </TextButton>
      </p>
      <ProblemNote problem={ask.error} />
    </>
  );
}
