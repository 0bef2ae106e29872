import type { Schemas } from "../../api/client";
import { Dumbbells } from "../../charts/Dumbbells";
import { Stems } from "../../charts/Stems";
import { bathName, useNames } from "../../lab/useNames";
import { Together } from "./Paper";

/** What the class found beside the table: one ladder and all cells for each liquid. */
export function ClassPictures({ compare }: { compare: Schemas["CompareOut"] }) {
  const names = useNames();
  return (
    <section aria-label="What the class found">
      <h2>What the class found</h2>
      {compare.electrolytes.map((result) => (
        <div key={`${result.electrolyte}|${result.condition}`}>
          {result.rungs.length > 1 && (
            <Together>
              <h3>The ladder in {bathName(names, result)}: table left, class right</h3>
              <figure>
                <Stems result={result} />
              </figure>
            </Together>
          )}
          <Together>
            <h3>Every cell in {bathName(names, result)}: class beside table</h3>
            <figure>
              <Dumbbells result={result} />
            </figure>
          </Together>
        </div>
      ))}
    </section>
  );
}
