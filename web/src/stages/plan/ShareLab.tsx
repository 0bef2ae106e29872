import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useShareLab, useShares } from "../../api/school";
import { Disclosure } from "../../ui/controls";
import { Narrow, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";

const WAYS = [
  { key: "no", name: t`not shared` },
  { key: "look", name: t`may look` },
  { key: "work", name: t`may work in it` },
];

/** Share a lab with colleagues, each to look at it or to work in it; for its owner. */
export function ShareLab({ lab }: { lab: string }) {
  const shares = useShares(lab);
  const share = useShareLab(lab);
  if (!shares.data) return <ProblemNote problem={shares.error} />;
  if (shares.data.way !== "own" || shares.data.colleagues.length === 0) return null;
  const { colleagues } = shares.data;
  const names = colleagues.filter((colleague) => colleague.way !== "no").map((colleague) => colleague.name);
  return (
    <Disclosure
      title={t`Share with a colleague`}
      detail={names.length > 0 ? t`with ${names.join(", ")}` : t`not shared`}
    >
      <Narrow>
        <Soft>
          <Trans>
            Who may look sees all but the groups’ PINs. Who may work can do what you can, except delete the lab or share
            it on.
          </Trans>
        </Soft>
        {colleagues.map((colleague) => (
          <Select
            key={colleague.teacher}
            label={colleague.name}
            options={WAYS}
            value={colleague.way}
            onChange={(way) => share.mutate({ teacher: colleague.teacher, way: way as typeof colleague.way })}
          />
        ))}
        <ProblemNote problem={share.error} />
      </Narrow>
    </Disclosure>
  );
}
