import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link, Navigate } from "react-router";
import { Problem } from "../../api/client";
import { useBenchCompare } from "../../api/findings";
import { Frame } from "../../ui/Frame";
import { Waiting } from "../../ui/Waiting";
import { day } from "../../format";
import { Column, Soft } from "../../ui/layout";
import { Notes } from "../../ui/Notes";
import { NotYet } from "../../lab/NotYet";
import { CompareView, notesOn } from "./ComparePage";

/** The class's results on a group's own device, once the teacher has released them. */
export function BenchCompare() {
  const compare = useBenchCompare();
  const [chosen, setChosen] = useState<string | null>(null);
  if (!compare.data) {
    if (compare.error instanceof Problem && compare.error.status === 401) return <Navigate to="/join" replace />;
    if (compare.error instanceof Problem && compare.error.status === 403) return <NotYet />;
    return <Waiting title={t`Class results`} error={compare.error} />;
  }
  const { data } = compare;
  if (!data.released.includes("compare")) return <NotYet />;
  const first = data.electrolytes[0];
  const tab = chosen ?? (first ? `${first.electrolyte}|${first.condition}` : "groups");
  return (
    <Frame
      title={t`Class results, ${data.title}`}
      lab={t`Class results`}
      about={
        <>
          {data.title}, {day(data.date)}
          {data.simulated && t` · simulated readings`}
        </>
      }
      who={
        <Link to="/bench">
          <Trans>To the bench</Trans>
        </Link>
      }
      margin={<Notes notes={notesOn(data, tab).map((note) => ({ ...note, action: undefined }))} />}
    >
      {first ? (
        <CompareView
          data={data}
          tab={tab}
          setTab={setChosen}
          hold={null}
          before={null}
          changed={null}
          strength={null}
        />
      ) : (
        <Column>
          <Soft>
            <Trans>Nothing is measured yet.</Trans>
          </Soft>
        </Column>
      )}
    </Frame>
  );
}
