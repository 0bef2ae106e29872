import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import { useOpenHomework } from "../../api/homework";
import { MainButton, TextButton } from "../../ui/Button";
import { Disclosure, Progress } from "../../ui/controls";
import { CodeField } from "../../ui/fields";
import { Form, Narrow, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour } from "../../ui/theme";
import type { HomeworkHere } from "./useHomeworkHere";

const Strip = styled.section`
  display: grid;
  gap: 0.4rem;
  padding: 0.7rem 1.25rem;
  & + * {
    border-top: 1px solid ${colour.hairline};
  }
`;

type Begin = HomeworkHere["begin"];

function Enter({ code: given, begin }: { code: string; begin: Begin }) {
  const [code, setCode] = useState(given);
  const open = useOpenHomework();
  return (
    <Narrow>
      <Form
        aria-label={t`Homework`}
        onSubmit={(event) => {
          event.preventDefault();
          open.mutate(code, { onSuccess: begin });
        }}
      >
        <CodeField
          label={t`Code of the homework`}
          hint={t`From your teacher. It asks for no name.`}
          value={code}
          onChange={setCode}
        />
        <ProblemNote problem={open.error} />
        <MainButton type="submit">{open.isPending ? t`One moment…` : t`Begin the homework`}</MainButton>
      </Form>
    </Narrow>
  );
}

/** Homework on this device: how far it is and what still waits here; or where its code is typed in. */
export function HomeworkStrip({ here, given, begin }: { here: HomeworkHere; given: string; begin: Begin }) {
  const { homework, unsent, refused } = here;
  if (given && homework?.code !== given)
    return (
      <Strip aria-label={t`Homework`}>
        <Enter code={given} begin={begin} />
      </Strip>
    );
  if (!homework)
    return (
      <Strip aria-label={t`Homework`}>
        <Disclosure title={t`Homework`} detail={t`with a code from your teacher`}>
          <Enter code="" begin={begin} />
        </Disclosure>
      </Strip>
    );
  const { benches, done, lab } = homework;
  return (
    <Strip aria-label={t`Homework`}>
      <Progress label={t`Homework for ${lab}`} value={Math.min(done, benches)} of={benches} />
      <Soft role="status">
        {done >= benches
          ? t`All ${benches} benches are done. Go on if you like: that counts, too.`
          : t`${plural(benches - done, { one: "# bench", other: "# benches" })} to go.`}{" "}
        {unsent
          ? t`${plural(unsent, { one: "# answer is", other: "# answers are" })} on this device and will be sent when Pipette can be reached.`
          : unsent === 0 && done > 0
            ? t`All answers are sent. Your teacher sees which faults the class finds, not who.`
            : t`Your teacher will see which faults the class finds, not who.`}
        {refused.map((reason) => t` Not counted: ${reason}`)}
      </Soft>
      <div>
        <TextButton onPress={here.stop}>
          <Trans>Leave the homework</Trans>
        </TextButton>
      </div>
    </Strip>
  );
}
