import { plural, t } from "@lingui/core/macro";
import { useLabPacks } from "../../api/packs";
import type { Schemas } from "../../api/client";
import { volts } from "../../format";
import { Bullets, type MarginNote } from "../../ui/Notes";

type Pack = Schemas["KeptPack"];

/** A group's latest pack in a few words: how far it is, what was seen, or what is off. */
function said(pack: Pack): string {
  const cells = pack.steps.length === 0 ? t`begun` : plural(pack.steps.length, { one: "# cell", other: "# cells" });
  const reads = pack.open_v === null ? "" : `, ${volts(pack.open_v, 2)}`;
  const off = pack.findings[0]?.title;
  const ran = pack.lit === null ? "" : pack.lit ? t`, it ran` : t`, it did not run`;
  return t`${pack.group}: ${cells} for the ${pack.load_name}${reads}${off ? `. ${off}` : `${ran}.`}`;
}

/** Who stands where with packs, for the board's margin; null while nobody builds any. */
export function usePacksAtWork(id: string, groups: { name: string }[]): MarginNote | null {
  const answer = useLabPacks(id);
  const packs = answer.data?.packs ?? [];
  if (!answer.data && answer.error)
    return { code: "packs", tone: "caution", title: t`Packs`, text: answer.error.message };
  if (packs.length === 0) return null;
  const latest = new Map(packs.map((pack) => [pack.group, pack]));
  const without = groups.map((group) => group.name).filter((name) => !latest.has(name));
  const lines = [...latest.values()].map(said);
  return {
    code: "packs",
    tone: [...latest.values()].some((pack) => pack.findings.length > 0) ? "caution" : "plain",
    title: t`Packs: ${latest.size} of ${plural(groups.length, { one: "# group", other: "# groups" })}`,
    text: <Bullets items={without.length > 0 ? [...lines, t`Not begun: ${without.join(", ")}.`] : lines} />,
  };
}
