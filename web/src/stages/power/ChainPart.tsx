import { Link } from "react-router";
import { useBeginChain, useChain } from "../../api/chain";
import { number } from "../../format";
import { newId } from "../../lab/useOutbox";
import { Behind } from "../../ui/Behind";
import { Button } from "../../ui/Button";
import { Row, Soft, Table } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { titleOf } from "./ChainProjector";
import { PackSays } from "./PackSays";

type Props = { id: string; load: string; loadName: string; cell: string; short: string };

/** The class's chain at the desk: begin one with what is chosen above; then votes, cells and what is off. */
export function ChainPart({ id, load, loadName, cell, short }: Props) {
  const begin = useBeginChain(id);
  const chain = useChain(id).data?.chain ?? null;
  return (
    <section aria-label="The class’s chain">
      <h2>The class’s chain</h2>
      <Soft>
        Groups vote how many cells it takes, then one after the other joins its cell and types what the whole row reads.
      </Soft>
      {chain && (
        <>
          <p>
            <strong>{titleOf(chain)}</strong>. <Link to={`/labs/${id}/power/projector`}>On the projector</Link>
          </p>
          {chain.voting && chain.without_vote.length > 0 && <p>No vote yet: {chain.without_vote.join(", ")}.</p>}
          {chain.harm && <p role="alert">Do not join it: {chain.harm}</p>}
          <PackSays findings={chain.findings} />
          {chain.links.length > 0 && (
            <Behind label="Cell by cell">
              <Table>
                <thead>
                  <tr>
                    <th data-number>Cell</th>
                    <th>of</th>
                    <th>plates</th>
                    <th data-number>alone, class, V</th>
                    <th data-number>the whole, V</th>
                    <th data-number>added, V</th>
                  </tr>
                </thead>
                <tbody>
                  {chain.links.map((link, index) => (
                    <tr key={link.id}>
                      <td data-number>{index + 1}</td>
                      <th scope="row">{link.group}</th>
                      <td>{link.short}</td>
                      <td data-number>{link.alone_v === null ? "" : number(link.alone_v, 2)}</td>
                      <td data-number>{number(link.whole_v, 2)}</td>
                      <td data-number>{number(link.added_v, 2, true)}</td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </Behind>
          )}
        </>
      )}
      <Row>
        <Button onPress={() => begin.mutate({ id: newId(), load, cell })}>
          {chain ? "Begin anew" : "Begin a chain"} for the {loadName}, of {short}
        </Button>
      </Row>
      {chain && <Soft>Beginning anew asks for votes again; what was done stays on record.</Soft>}
      <ProblemNote problem={begin.error} />
    </section>
  );
}
