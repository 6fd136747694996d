/** Heads of the columns of a table; one without words stands over what needs none. */
export function ColumnHeads({
  titles,
  look,
  row = '',
}: {
  /** A title, with what sets its column apart from the others where something does. */
  titles: readonly (string | readonly [title: string, look: string])[];
  look: string;
  row?: string;
}) {
  return (
    <thead>
      <tr className={`text-13 text-dim ${row}`}>
        {titles.map((one) => {
          const [title, own] = typeof one === 'string' ? [one, ''] : one;
          return (
            <th key={title} scope="col" className={`font-normal ${look} ${own}`}>
              {title}
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
