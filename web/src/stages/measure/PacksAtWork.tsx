import { useLabPacks } from "../../api/packs";
import type { Schemas } from "../../api/client";
import { count, volts } from "../../format";
import { Bullets, type MarginNote } from "../../ui/Notes";

type Pack = Schemas["KeptPack"];

/** A group's latest pack in a few words: how far it is, what was seen, or what is off. */
function said(pack: Pack): string {
  const cells = pack.steps.length === 0 ? "begun" : count(pack.steps.length, "cell");
  const reads = pack.open_v === null ? "" : `, ${volts(pack.open_v, 2)}`;
  const off = pack.findings[0]?.title;
  const ran = pack.lit === null ? "" : pack.lit ? ", it ran" : ", it did not run";
  return `${pack.group}: ${cells} for the ${pack.load_name}${reads}${off ? `. ${off}` : `${ran}.`}`;
}

/** Who stands where with packs, for the board's margin; null while nobody builds any. */
export function usePacksAtWork(id: string, groups: { name: string }[]): MarginNote | null {
  const packs = useLabPacks(id).data?.packs ?? [];
  if (packs.length === 0) return null;
  const latest = new Map(packs.map((pack) => [pack.group, pack]));
  const without = groups.map((group) => group.name).filter((name) => !latest.has(name));
  const lines = [...latest.values()].map(said);
  return {
    code: "packs",
    tone: [...latest.values()].some((pack) => pack.findings.length > 0) ? "caution" : "plain",
    title: `Packs: ${latest.size} of ${count(groups.length, "group")}`,
    text: <Bullets items={without.length > 0 ? [...lines, `Not begun: ${without.join(", ")}.`] : lines} />,
  };
}
