import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useState } from "react";
import { time } from "../../format";
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

type Photo = Schemas["PhotoOut"];

/** One photograph, to look at or to remove; of a removed one, when and by whom. */
function Photograph({ photo, nth }: { photo: Photo; nth: number }) {
  const remove = useRemovePhoto();
  const [asking, setAsking] = useState(false);
  if (photo.removed_at)
    return (
      <li>
        <Soft>
          <Trans>
            Photograph {nth} of {time(photo.received_at)} was removed at {time(photo.removed_at)} by{" "}
            {photo.removed_by === "teacher" ? t`the teacher` : t`the group`}.
          </Trans>
        </Soft>
      </li>
    );
  return (
    <li>
      <a href={`/api/photos/${photo.id}`} target="_blank" rel="noreferrer">
        <img src={`/api/photos/${photo.id}`} alt={t`Photograph ${nth} of this cell, ${time(photo.received_at)}`} />
      </a>
      {asking ? (
        <>
          <Small>
            <Trans>It cannot be brought back.</Trans>
          </Small>
          <TextButton onPress={() => remove.mutate(photo.id)}>
            <Trans>Remove it now</Trans>
          </TextButton>
          <TextButton onPress={() => setAsking(false)}>
            <Trans>Keep the photograph</Trans>
          </TextButton>
        </>
      ) : (
        <TextButton onPress={() => setAsking(true)} aria-label={t`Remove photograph ${nth}`}>
          <Trans>Remove</Trans>
        </TextButton>
      )}
      <ProblemNote problem={remove.error} />
    </li>
  );
}

/** The photographs of a cell; `more` are those that are not sent yet. */
export function Photographs({ photos, more }: { photos: Photo[]; more?: ReactNode }) {
  return (
    <List aria-label={t`Photographs`}>
      {photos.map((photo, index) => (
        <Photograph key={photo.id} photo={photo} nth={index + 1} />
      ))}
      {more}
    </List>
  );
}
