import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import { usePackCauses } from "../../api/packs";
import { lower } from "../../format";
import { VERDICTS } from "../../lab/verdicts";
import { Behind } from "../../ui/Behind";
import { Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";

const Causes = styled.dl`
  dt {
    margin-top: 0.6rem;
    font-weight: 700;
  }
  dd {
    margin: 0;
  }
`;

const SHADES = {
  fits: colour.good,
  part: colour.good,
  cancels: colour.soft,
  cannot_tell: colour.soft,
  contradicted: colour.wrong,
};

/** Packs that fell short or sagged: which causes their own numbers bear out, which not, and what would tell the rest. */
export function UnderLoad({ lab }: { lab: string }) {
  const answer = usePackCauses(lab);
  const packs = answer.data?.packs ?? [];
  const [chosen, choose] = useState("");
  const pack = packs.find((one) => one.id === chosen) ?? packs[0];
  if (!pack) return <ProblemNote problem={answer.error} />;
  const open = pack.causes.filter((cause) => cause.verdict === "cannot_tell");
  return (
    <section aria-label={t`Under load`}>
      <h2>
        <Trans>Under load: why a pack fell short</Trans>
      </h2>
      <Select
        label={t`Which pack`}
        options={packs.map((one) => ({ key: one.id, name: `${one.group}: ${one.name}` }))}
        value={pack.id}
        onChange={choose}
      />
      <Causes>
        {pack.causes
          .filter((cause) => cause.verdict !== "cannot_tell")
          .map((cause) => (
            <div key={cause.key}>
              <dt>
                {cause.name}: <span style={{ color: SHADES[cause.verdict] }}>{lower(VERDICTS[cause.verdict])}</span>
              </dt>
              <dd>{cause.says}</dd>
            </div>
          ))}
      </Causes>
      {open.length > 0 && (
        <Behind label={t`Left open: ${open.length}`}>
          <Causes>
            {open.map((one) => (
              <div key={one.key}>
                <dt>{one.name}</dt>
                <dd>
                  {one.says} <Soft as="span">{one.question}</Soft>
                </dd>
              </div>
            ))}
          </Causes>
        </Behind>
      )}
    </section>
  );
}
