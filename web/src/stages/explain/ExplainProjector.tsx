import { t } from "@lingui/core/macro";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { useClaims } from "../../api/claims";
import { useAccounts, useCompare, useDeciding, useExplain } from "../../api/findings";
import { type Slide, Slides } from "../../ui/Slides";
import { Waiting } from "../../ui/Waiting";
import { AccountBars } from "../../charts/AccountBars";
import { SharesTrail } from "../../charts/SharesTrail";
import { GapBars } from "../../charts/GapBars";
import { volts, lower } from "../../format";
import { ClaimText } from "./ClaimParts";
import { ShareList } from "./Deciding";
import { Loop } from "./Loop";
import { cellsOf } from "./ExplainPage";

const NO_ANCHORS: string[] = [];

/** Explain for the wall: the chosen cell's gap, the accounts, and the claims that groups let be shown. */
export function ExplainProjector({ id }: { id: string }) {
  const compare = useCompare(id, NO_ANCHORS);
  const [search] = useSearchParams();
  const all = compare.data ? cellsOf(compare.data) : [];
  const chosen = all.find((one) => one.key === search.get("cell")) ?? all[0];
  const explain = useExplain(id, chosen?.cell ?? null);
  const accounts = useAccounts(id);
  const shares = useDeciding(id);
  const claims = useClaims(id);
  const [open, setOpen] = useState<string | null>(null);
  if (!compare.data) return <Waiting title={t`Explain`} error={compare.error} />;
  const slides: Slide[] = [];
  if (explain.data && !explain.isPlaceholderData)
    slides.push({
      key: "gap",
      title: t`${explain.data.notation}: where ${volts(Math.abs(explain.data.measured_v - explain.data.start_v), 2)} went`,
      says: t`One cause at a time, from the printed table to what you measured.`,
      picture: <GapBars found={explain.data} open={open} press={(key) => setOpen(open === key ? null : key)} />,
      reads: t`Each bar begins where the one above it ends. First: the table. Last: what we measured.`,
    });
  if (chosen)
    slides.push({
      key: "loop",
      title: t`What goes round in ${chosen.short}?`,
      says: t`What stops when the ring is opened, and what goes on without you?`,
      picture: <Loop lab={id} cell={chosen.cell} bare />,
    });
  if (accounts.data && accounts.data.accounts.length > 0)
    slides.push({
      key: "accounts",
      title: t`Which account fits all ${accounts.data.cells.length} cells?`,
      says: accounts.data.verdict,
      picture: <AccountBars accounts={accounts.data.accounts} />,
      reads: t`The shorter its bar, the nearer an account comes to what we measured.`,
    });
  if (shares.data && shares.data.cells > 0)
    slides.push({
      key: "shares",
      title: t`Which account do our values speak for?`,
      says: shares.data.verdict,
      picture: (
        <>
          <SharesTrail shares={shares.data.shares} steps={shares.data.steps} turn={shares.data.turn} />
          <p>{shares.data.turned}</p>
          <ShareList shares={shares.data.shares} />
        </>
      ),
      reads: t`From left to right, one value after another: a broad band is an account that fits them well.`,
    });
  for (const claim of claims.data?.claims ?? [])
    if (claim.latest && claim.answer?.shown)
      slides.push({
        key: claim.id,
        title: t`${claim.group} says: ${lower(claim.cause_name)}`,
        says: "",
        picture: <ClaimText claim={claim} asks />,
      });
  return <Slides name={compare.data.title} back={`/labs/${id}/explain`} slides={slides} />;
}
