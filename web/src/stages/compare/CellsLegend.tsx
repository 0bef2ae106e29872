import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import { Legend } from "../../ui/voices";

type Props = { results: Schemas["ElectrolyteResultOut"][]; elsewhere?: string };

/** What the marks beside a class's cells mean; `elsewhere`: said of values that are not the class's, where there are any. */
export const CellsLegend = ({ results, elsewhere = t`from elsewhere` }: Props) => (
  <Legend
    items={[
      { mark: "reading", text: t`class mean, 95 % interval` },
      { mark: "table", text: t`table difference` },
      { mark: "group", text: t`one group` },
      ...(results.some((result) => result.cells.some((cell) => cell.elsewhere.length > 0))
        ? [{ mark: "elsewhere" as const, text: elsewhere }]
        : []),
    ]}
  />
);
