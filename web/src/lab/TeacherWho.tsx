import type { ReactNode } from "react";
import { Link } from "react-router";
import { useSignOut } from "../api/who";
import { TextButton } from "../ui/Button";

type Props = { name?: ReactNode; about?: ReactNode; links?: { to: string; name: string }[] };

/** Who is at work and what stands behind it, with the ways out: other pages, and signing out from anywhere. */
export function TeacherWho({ name = "Teacher bench", about, links = [] }: Props) {
  const signOut = useSignOut();
  return (
    <>
      <strong>{name}</strong>
      {about && <small>{about}</small>}
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
