import { plural, t } from "@lingui/core/macro";
import { useByVariable, useCompare } from "../../api/findings";
import { type Slide, Slides } from "../../ui/Slides";
import { Waiting } from "../../ui/Waiting";
import { Dumbbells } from "../../charts/Dumbbells";
import { SideBySide } from "../../charts/SideBySide";
import { Stems } from "../../charts/Stems";
import { VaryChart } from "../../charts/VaryChart";
import { bathName, useNames } from "../../lab/useNames";

const NO_ANCHORS: string[] = [];

/** Compare for the wall: what was changed and its answer, if anything was; each liquid's stems, then its cells, then all ladders; what the margin says first stands above. */
export function CompareProjector({ id }: { id: string }) {
  const compare = useCompare(id, NO_ANCHORS);
  const changed = useByVariable(id);
  const names = useNames();
  if (!compare.data) return <Waiting title={t`Compare`} error={compare.error} />;
  const { electrolytes, title } = compare.data;
  const slides: Slide[] = electrolytes.flatMap((result) => {
    const bath = bathName(names, result);
    const first = result.notes.find((note) => note.code === "swapped" || note.code === "plate_shift");
    return [
      {
        key: `${bath}-stems`,
        title: t`Where each plate sits, in ${bath}`,
        says: first
          ? first.text
          : t`${plural(result.cells.length, { one: "# cell", other: "# cells" })} tied into one ladder.`,
        picture: result.anchor ? <Stems result={result} /> : t`No plate of the table is on this ladder yet.`,
        ...(result.anchor && {
          reads: t`Ring: the printed table. Square: our class. Thick and red: these changed places.`,
        }),
      },
      {
        key: `${bath}-cells`,
        title: t`Cells in ${bath}, widest gap first`,
        says: result.notes.find((note) => note.code === "widest_gap")?.text ?? "",
        picture: <Dumbbells result={result} row={44} />,
        reads: t`Ring: the table’s difference. Square: our mean, its bar the 95 % interval. Ticks: single groups.`,
      },
    ];
  });
  if (electrolytes.length > 1)
    slides.push({
      key: "all",
      title: t`The table and all liquids`,
      says: compare.data.notes.find((note) => note.code === "what_matters")?.text ?? "",
      picture: <SideBySide results={electrolytes} title={(result) => bathName(names, result)} tall={425} />,
      reads: t`The table first, then each liquid; a line follows one plate from stem to stem.`,
    });
  const answered: Slide[] = (changed.data?.changed ?? []).map((one) => ({
    key: `${one.variable} ${one.short} ${one.electrolyte} ${one.quantity}`,
    title: t`${one.short}: ${one.quantity === "volts" ? t`volts` : t`current`} against ${one.name}`,
    says: one.notes[0] ? `${one.notes[0].title}. ${one.notes[0].text}` : "",
    picture: <VaryChart one={one} wall />,
    reads:
      one.quantity === "volts"
        ? t`Ticks joined by a line: one group. Dashed: the class. Green, with its band: what the model says.`
        : t`Ticks joined by a line: one group. Dashed: the class. Green: what the model says.`,
  }));
  return <Slides name={title} back={`/labs/${id}/compare`} slides={[...answered, ...slides]} />;
}
