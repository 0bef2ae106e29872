import { type ReactNode, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useRemovePhoto } from "../../api/bench";
import { TextButton } from "../../ui/Button";
import { Small, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { colour } from "../../ui/theme";

const List = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  li {
    display: grid;
    align-content: start;
    gap: 0.2rem;
    max-width: 9rem;
  }
  img {
    width: 9rem;
    height: 6.75rem;
    object-fit: cover;
    border: 1px solid ${colour.hairline};
    border-radius: 4px;
  }
`;

const time = (iso: string) => new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

type Photo = Schemas["PhotoOut"];

/** One photograph, to look at or to remove; of a removed one, when and by whom. */
function Photograph({ photo, nth }: { photo: Photo; nth: number }) {
  const remove = useRemovePhoto();
  const [asking, setAsking] = useState(false);
  if (photo.removed_at)
    return (
      <li>
        <Soft>
          Photograph {nth} of {time(photo.received_at)} was removed at {time(photo.removed_at)} by{" "}
          {photo.removed_by === "teacher" ? "the teacher" : "the group"}.
        </Soft>
      </li>
    );
  return (
    <li>
      <a href={`/api/photos/${photo.id}`} target="_blank" rel="noreferrer">
        <img src={`/api/photos/${photo.id}`} alt={`Photograph ${nth} of this cell, ${time(photo.received_at)}`} />
      </a>
      {asking ? (
        <>
          <Small>It cannot be brought back.</Small>
          <TextButton onPress={() => remove.mutate(photo.id)}>Remove it now</TextButton>
          <TextButton onPress={() => setAsking(false)}>Keep the photograph</TextButton>
        </>
      ) : (
        <TextButton onPress={() => setAsking(true)} aria-label={`Remove photograph ${nth}`}>
          Remove
        </TextButton>
      )}
      <ProblemNote problem={remove.error} />
    </li>
  );
}

/** The photographs of a cell; `more` are those that are not sent yet. */
export function Photographs({ photos, more }: { photos: Photo[]; more?: ReactNode }) {
  return (
    <List aria-label="Photographs">
      {photos.map((photo, index) => (
        <Photograph key={photo.id} photo={photo} nth={index + 1} />
      ))}
      {more}
    </List>
  );
}
