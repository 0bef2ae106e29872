import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { useShares } from "../api/school";
import { useSignOut } from "../api/who";
import { TextButton } from "../ui/Button";

type Props = { name?: ReactNode; about?: ReactNode; links?: { to: string; name: string }[] };

/** Who is at work and what stands behind it, with the ways out: other pages, and signing out from anywhere. */
export function TeacherWho({ name = "Teacher bench", about, links = [] }: Props) {
  const signOut = useSignOut();
  const { data: whose } = useShares(useParams()["id"]);
  return (
    <>
      <strong>{name}</strong>
      {about && <small>{about}</small>}
      {whose && whose.way !== "own" && (
        <small>
          {whose.owner}’s lab: you may {whose.way === "work" ? "work in it" : "look"}
        </small>
      )}
      <small>
        {links.map((link) => (
          <span key={link.to}>
            <Link to={link.to}>{link.name}</Link> ·{" "}
          </span>
        ))}
        <TextButton onPress={() => signOut.mutate(undefined)}>Sign out</TextButton>
      </small>
    </>
  );
}
