/** The head of a table that is read, not sorted; a column without a name is that of what can be done. */
export function TableHead({ heads }: { readonly heads: readonly string[] }) {
  return (
    <thead>
      <tr className="border-b border-edge text-aside text-muted">
        {heads.map((head) => (
          <th key={head} scope="col" className="px-3 py-2 font-normal">
            {head || <span className="sr-only">Actions</span>}
          </th>
        ))}
      </tr>
    </thead>
  );
}
