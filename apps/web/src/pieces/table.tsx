import type { ReactNode } from 'react';

/** The head of a column; className: its width or side. isHidden: said, not shown. */
export interface Column {
  readonly head: string;
  readonly className?: string;
  readonly isHidden?: boolean;
}

/** A table with its heads; the rows are the caller’s. */
export function Table({
  columns,
  className = 'mt-2 w-full text-[14px]',
  stacks = false,
  children,
}: {
  columns: readonly (string | Column)[];
  className?: string;
  /** On a phone each row is a stack of its cells, and the heads are said, not shown. */
  stacks?: boolean;
  children: ReactNode;
}) {
  return (
    <table
      className={`text-left ${className} ${stacks ? 'max-md:block max-md:[&_tbody]:block max-md:[&_td]:block max-md:[&_th]:block max-md:[&_tr]:flex max-md:[&_tr]:flex-wrap max-md:[&_tr]:items-baseline max-md:[&_tr]:py-1.5' : ''}`}
    >
      <thead className={`text-[12.5px] text-ink3 ${stacks ? 'max-md:sr-only' : ''}`}>
        <tr>
          {columns.map((column) => {
            const {
              head,
              className: side = '',
              isHidden,
            } = typeof column === 'string' ? { head: column } : column;
            return (
              <th key={head} scope="col" className={`py-1 font-[500] ${side}`}>
                {isHidden ? <span className="sr-only">{head}</span> : head}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}
