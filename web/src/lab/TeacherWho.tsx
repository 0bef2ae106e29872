import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { useLabsKnown } from "../api/labs";
import { useShares } from "../api/school";
import { useSignOut } from "../api/who";
import { TextButton } from "../ui/Button";

type Props = { name?: ReactNode; about?: ReactNode; links?: { to: string; name: string; anew?: boolean }[] };

/** Who is at work and what stands behind it, with the ways out: other pages, and signing out from anywhere. A link
 * `anew` fetches its page from the server, in the lab's language. */
export function TeacherWho({ name = t`Teacher bench`, about, links = [] }: Props) {
  const signOut = useSignOut();
  const lab = useParams()["id"];
  const { data: whose } = useShares(lab);
  const waits = useLabsKnown()?.find((one) => one.id === lab);
  // What hangs off a lab beside its stages, with what waits there as far as this page has heard of it.
  const beside = lab
    ? [
        { to: `/labs/${lab}/report`, name: t`Report`, n: waits?.notebooks ?? 0 },
        { to: `/labs/${lab}/practise`, name: t`Practise`, n: 0 },
      ].filter(({ to }) => links.every((link) => link.to !== to))
    : [];
  return (
    <>
      <strong>{name}</strong>
      {about && <small>{about}</small>}
      {whose && whose.way !== "own" && (
        <small>
          <Trans>
            {whose.owner}’s lab: you may {whose.way === "work" ? t`work in it` : t`look`}
          </Trans>
        </small>
      )}
      <small>
        {beside.map(({ to, name: called, n }) => (
          <span key={to}>
            <Link to={to}>{n > 0 ? t`${called} (${n} handed in)` : called}</Link> ·{" "}
          </span>
        ))}
        {links.map((link) => (
          <span key={link.to}>
            <Link to={link.to} reloadDocument={link.anew ?? false}>
              {link.name}
            </Link>{" "}
            ·{" "}
          </span>
        ))}
        <TextButton onPress={() => signOut.mutate(undefined)}>
          <Trans>Sign out</Trans>
        </TextButton>
      </small>
    </>
  );
}
