import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import { useBeginChain, useChain } from "../../api/chain";
import { asTyped, number } from "../../format";
import { useIdOf } from "../../api/newId";
import { Behind } from "../../ui/Behind";
import { Button } from "../../ui/Button";
import { Heads } from "../../ui/Heads";
import { Row, Soft, Table } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { titleOf } from "./ChainProjector";
import { PackSays } from "./PackSays";

type Props = { id: string; load: string; loadName: string; cell: string; short: string };

/** The class's chain at the desk: begin one with what is chosen above; then votes, cells and what is off. */
export function ChainPart({ id, load, loadName, cell, short }: Props) {
  const begin = useBeginChain(id);
  const chainId = useIdOf([load, cell, begin.data]);
  const kept = useChain(id);
  const chain = kept.data?.chain ?? null;
  return (
    <section aria-label={t`The class’s chain`}>
      <h2>
        <Trans>The class’s chain</Trans>
      </h2>
      <Soft>
        <Trans>
          Groups vote how many cells it takes, then one after the other joins its cell and types what the whole row
          reads.
        </Trans>
      </Soft>
      {chain && (
        <>
          <p>
            <strong>{titleOf(chain)}</strong>.{" "}
            <Link to={`/labs/${id}/power/projector`} reloadDocument>
              <Trans>On the projector</Trans>
            </Link>
          </p>
          {chain.voting && chain.without_vote.length > 0 && (
            <p>
              <Trans>No vote yet: {chain.without_vote.join(", ")}.</Trans>
            </p>
          )}
          {chain.harm && (
            <p role="alert">
              <Trans>Do not join it: {chain.harm}</Trans>
            </p>
          )}
          <PackSays findings={chain.findings} />
          {chain.links.length > 0 && (
            <Behind label={t`Cell by cell`}>
              <Table>
                <Heads
                  of={[
                    { numbers: t`Cell` },
                    t`of`,
                    t`plates`,
                    { numbers: t`alone, class, V` },
                    { numbers: t`the whole, V` },
                    { numbers: t`added, V` },
                  ]}
                />
                <tbody>
                  {chain.links.map((link, index) => (
                    <tr key={link.id}>
                      <td data-number>{index + 1}</td>
                      <th scope="row">{link.group}</th>
                      <td>{link.short}</td>
                      <td data-number>{link.alone_v === null ? "" : number(link.alone_v, 2)}</td>
                      <td data-number>
                        {link.whole_v === null ? (
                          <Soft as="span">
                            <s>{asTyped(link.text, link.unit)}</s> {link.why}
                          </Soft>
                        ) : (
                          number(link.whole_v, 2)
                        )}
                      </td>
                      <td data-number>{link.added_v === null ? "" : number(link.added_v, 2, true)}</td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </Behind>
          )}
        </>
      )}
      <Row>
        <Button isDisabled={!kept.data} onPress={() => begin.mutate({ id: chainId, load, cell })}>
          <Trans>
            {chain ? t`Begin anew` : t`Begin a chain`} for the {loadName}, of {short}
          </Trans>
        </Button>
      </Row>
      {chain && (
        <Soft>
          <Trans>Beginning anew asks for votes again; what was done stays on record.</Trans>
        </Soft>
      )}
      <ProblemNote problem={begin.error ?? kept.error} />
    </section>
  );
}
