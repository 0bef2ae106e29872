type Name = string | { numbers: string };

/** The names over the columns of a table, in order; over columns of numbers as `{ numbers: … }`, which stand to the right. */
export function Heads({ of }: { of: Name[] }) {
  return (
    <thead>
      <tr>
        {of.map((name, at) => (
          <th key={at} scope="col" data-number={typeof name === "string" ? undefined : true}>
            {typeof name === "string" ? name : name.numbers}
          </th>
        ))}
      </tr>
    </thead>
  );
}
