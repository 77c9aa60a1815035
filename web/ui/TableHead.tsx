/** The head of a table that is read, not sorted. */
export function TableHead({ heads }: { readonly heads: readonly string[] }) {
  return (
    <thead>
      <tr className="border-b border-edge text-aside text-muted">
        {heads.map((head) => (
          <th key={head} scope="col" className="px-3 py-2 font-normal">
            {head}
          </th>
        ))}
      </tr>
    </thead>
  );
}
