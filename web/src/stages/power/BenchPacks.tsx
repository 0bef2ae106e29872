import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useMemo, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { Problem, type Schemas } from "../../api/client";
import { useBench } from "../../api/bench";
import { hasLeft } from "../../api/leaving";
import { keepForOffline } from "../../api/offline";
import { useBenchPacks } from "../../api/packs";
import { BenchLine } from "../../lab/BenchLine";
import { newId } from "../../api/newId";
import { type Outbox, useOutbox } from "../../lab/useOutbox";
import { ButtonLink, MainButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Frame } from "../../ui/Frame";
import { Column, Soft } from "../../ui/layout";
import { Waiting } from "../../ui/Waiting";
import { BenchChain } from "./BenchChain";
import { NotKept } from "./NotKept";
import { PackBench } from "./PackBench";
import { type View, refusedOf, rowOf, viewsOf } from "./packView";

const RESISTOR = "resistor";

/** A group's packs: what they have built, and the next one; nothing of it once the group has left this device. */
export function BenchPacks() {
  return hasLeft() ? <Navigate to="/join" replace /> : <Joined />;
}

function Joined() {
  const bench = useBench();
  const packs = useBenchPacks();
  const shown = useMemo(
    () => (packs.data?.packs ?? []).flatMap((pack) => [pack.id, ...pack.entries.map((entry) => entry.id)]),
    [packs.data],
  );
  const outbox = useOutbox(bench.data, shown);
  const { pack: id } = useParams();
  const ready = packs.data !== undefined;
  useEffect(() => {
    if (!ready || hasLeft()) return;
    const timer = setTimeout(() => void keepForOffline(), 800);
    return () => clearTimeout(timer);
  }, [ready]);
  if (!bench.data || !packs.data) {
    const error = bench.error ?? packs.error;
    if (error instanceof Problem && error.status === 401) return <Navigate to="/join" replace />;
    return <Waiting title={t`Packs`} error={error} />;
  }
  const views = viewsOf(packs.data, outbox.waiting);
  const view = views.find((one) => one.id === id);
  const unsent = outbox.waiting.filter((one) => !one.sent && one.refusal === null).length;
  const later = outbox.trouble && outbox.safety === "kept" ? t`, safe here` : "";
  return (
    <Frame
      title={t`${bench.data.group}, packs`}
      lab={t`${bench.data.group} · packs`}
      about={bench.data.lab}
      who={
        <>
          <strong role="status">
            {!outbox.looked ? t`Checking what is sent` : unsent === 0 ? t`All sent` : t`${unsent} not sent yet${later}`}
          </strong>
          <small>
            {view && (
              <>
                <Link to="/bench/packs">
                  <Trans>All packs</Trans>
                </Link>
                {" · "}
              </>
            )}
            <Link to="/bench">
              <Trans>To the cells</Trans>
            </Link>
          </small>
        </>
      }
      notice={
        <>
          <BenchLine bench={bench.data} outbox={outbox} />
          <NotKept refused={refusedOf(outbox.waiting)} putAway={(id) => void outbox.remove(id)} />
        </>
      }
    >
      {view ? (
        <PackBench key={view.id} view={view} data={packs.data} bench={bench.data} outbox={outbox} />
      ) : (
        <Column>
          {id && (
            <Soft>
              <Trans>That pack is not on this device.</Trans>
            </Soft>
          )}
          <h1>
            <Trans>Packs: cells in a row</Trans>
          </h1>
          {packs.data.chain && (
            <BenchChain
              key={packs.data.chain.id}
              chain={packs.data.chain}
              bench={bench.data}
              how={packs.data.how["sum"] ?? ""}
              outbox={outbox}
            />
          )}
          <Begin data={packs.data} open={bench.data.state === "open"} outbox={outbox} />
          {views.length > 0 && (
            <h2>
              <Trans>Your packs</Trans>
            </h2>
          )}
          {views.map((one) => (
            <p key={one.id}>
              <ButtonLink to={`/bench/packs/${one.id}`}>{titleOf(one)}</ButtonLink>
            </p>
          ))}
        </Column>
      )}
    </Frame>
  );
}

function titleOf(view: View): string {
  const lit = view.kept?.lit;
  const seen = lit === null || lit === undefined ? "" : lit ? t`, it ran` : t`, it did not run`;
  return `${view.loadName}: ${plural(rowOf(view).length, { one: "# cell", other: "# cells" })}${seen}`;
}

/** What should it run? A pack is begun on this device at once, with or without the network. */
function Begin({ data, open, outbox }: { data: Schemas["BenchPacks"]; open: boolean; outbox: Outbox }) {
  const navigate = useNavigate();
  const [load, setLoad] = useState("led-red");
  const [ohms, setOhms] = useState("470");
  const [wrong, setWrong] = useState<string | null>(null);
  const begin = async () => {
    const id = newId();
    const body = { id, load: load === RESISTOR ? ohms : load, device_at: new Date().toISOString() };
    const refusal = await outbox.add({ kind: "pack", id, cell_id: id, body });
    if (refusal === null) return navigate(`/bench/packs/${id}`);
    await outbox.remove(id);
    setWrong(refusal);
  };
  return (
    <>
      <h2>
        <Trans>What should it run?</Trans>
      </h2>
      <Soft>
        <Trans>Join cells until it does: measure each alone, and all together at every step.</Trans>
      </Soft>
      <Picks
        label={t`The load`}
        options={[...data.loads.map(({ key, name }) => ({ key, name })), { key: RESISTOR, name: t`a resistor` }]}
        value={load}
        onChange={setLoad}
      />
      {load === RESISTOR && (
        <TextField
          label={t`Its resistance, Ω`}
          value={ohms}
          onChange={(text) => {
            setOhms(text);
            setWrong(null);
          }}
          inputMode="decimal"
          maxLength={12}
          error={wrong}
        />
      )}
      <p>
        <MainButton onPress={() => void begin()} isDisabled={!open}>
          <Trans>Begin a pack</Trans>
        </MainButton>
      </p>
    </>
  );
}
