import { useState } from "react";
import styled from "styled-components";
import { useOpenHomework } from "../../api/homework";
import { count } from "../../format";
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
        aria-label="Homework"
        onSubmit={(event) => {
          event.preventDefault();
          open.mutate(code, { onSuccess: begin });
        }}
      >
        <CodeField
          label="Code of the homework"
          hint="From your teacher. It asks for no name."
          value={code}
          onChange={setCode}
        />
        <ProblemNote problem={open.error} />
        <MainButton type="submit">{open.isPending ? "One moment…" : "Begin the homework"}</MainButton>
      </Form>
    </Narrow>
  );
}

/** Homework on this device: how far it is and what still waits here; or where its code is typed in. */
export function HomeworkStrip({ here, given, begin }: { here: HomeworkHere; given: string; begin: Begin }) {
  const { homework, waiting } = here;
  if (given && homework?.code !== given)
    return (
      <Strip aria-label="Homework">
        <Enter code={given} begin={begin} />
      </Strip>
    );
  if (!homework)
    return (
      <Strip aria-label="Homework">
        <Disclosure title="Homework" detail="with a code from your teacher">
          <Enter code="" begin={begin} />
        </Disclosure>
      </Strip>
    );
  const { benches, done, lab } = homework;
  return (
    <Strip aria-label="Homework">
      <Progress label={`Homework for ${lab}`} value={Math.min(done, benches)} of={benches} />
      <Soft role="status">
        {done >= benches
          ? `All ${benches} benches are done. Go on if you like: that counts, too.`
          : `${count(benches - done, "bench", "benches")} to go.`}{" "}
        {waiting.unsent > 0
          ? `${count(waiting.unsent, "answer is", "answers are")} on this device and will be sent when Pipette can be reached.`
          : done > 0
            ? "All answers are sent. Your teacher sees which faults the class finds, not who."
            : "Your teacher will see which faults the class finds, not who."}
        {waiting.refused.map((reason) => ` Not counted: ${reason}`)}
      </Soft>
      <div>
        <TextButton onPress={here.stop}>Leave the homework</TextButton>
      </div>
    </Strip>
  );
}
