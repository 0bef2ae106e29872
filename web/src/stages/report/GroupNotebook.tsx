import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useRef, useState } from "react";
import { useParams } from "react-router";
import { useCompare } from "../../api/findings";
import { useGroupNotebook, useNotebooks } from "../../api/notebook";
import { ButtonLink } from "../../ui/Button";
import { OnScreen } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { Waiting } from "../../ui/Waiting";
import { ClassPictures } from "./ClassPictures";
import { GiveBack, Remark, useGivingBack } from "./GiveBack";
import { Notebook } from "./Notebook";
import { LabFrame } from "../../lab/LabFrame";
import { TakeAway } from "./TakeAway";
import { Versions } from "./Words";

const NO_ANCHORS: string[] = [];

/** A group's notebook for its teacher: read, remark, mark, give back, and on to the next. */
export function GroupNotebook({ id }: { id: string }) {
  const { group = "" } = useParams();
  return <OfGroup key={group} id={id} group={group} />;
}

function OfGroup({ id, group }: { id: string; group: string }) {
  const notebook = useGroupNotebook(group);
  const all = useNotebooks(id);
  const compare = useCompare(id, NO_ANCHORS);
  const page = useRef<HTMLDivElement>(null);
  const [ruled, setRuled] = useState(false);
  const giving = useGivingBack(notebook.data, group);
  const book = notebook.data;
  if (!book || !all.data) return <Waiting title={t`Notebook`} error={notebook.error ?? all.error} />;
  const lines = all.data.notebooks;
  const place = lines.findIndex((line) => line.group_id === group);
  const next = lines[place + 1];
  return (
    <LabFrame
      id={id}
      lab={book}
      title={t`Notebook of ${book.group}`}
      links={[{ to: `/labs/${id}/report`, name: t`All notebooks` }]}
      margin={
        <Notes
          notes={[
            {
              code: "give-back",
              tone: "plain",
              title: t`Mark it, and give it back`,
              text: <GiveBack book={book} giving={giving} />,
            },
          ]}
        />
      }
    >
      <div ref={page}>
        <Notebook
          book={book}
          ruled={ruled}
          pictures={compare.data && <ClassPictures compare={compare.data} />}
          beside={(part) => (
            <OnScreen data-not-in-file>
              <Remark part={part} giving={giving} />
              <Versions part={part} group={group} take={null} />
            </OnScreen>
          )}
        />
        <TakeAway page={page} title={`${book.title}, ${book.group}`} ruled={ruled} setRuled={setRuled}>
          {next && (
            <ButtonLink to={`/labs/${id}/notebook/${next.group_id}`}>
              <Trans>Next: {next.group}</Trans>
            </ButtonLink>
          )}
        </TakeAway>
      </div>
    </LabFrame>
  );
}
