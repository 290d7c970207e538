/** One table of the bench: a title, the columns' names, and rows of words and numbers. */
export interface Table {
  title: string;
  /** What the figures are and how they were taken, in a sentence or two. */
  about: string;
  columns: readonly string[];
  rows: (string | number)[][];
}

const shown = (cell: string | number): string =>
  typeof cell === 'string' ? cell : cell.toFixed(Math.abs(cell) < 10 ? (Math.abs(cell) < 1 ? 3 : 2) : 0);

export function toMarkdown({ title, about, columns, rows }: Table): string {
  const line = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`;
  return [
    `## ${title}`,
    '',
    about,
    '',
    line(columns),
    line(columns.map((_, k) => (k === 0 ? '---' : '---:'))),
    ...rows.map((row) => line(row.map(shown))),
    '',
  ].join('\n');
}

export function toText({ title, columns, rows }: Table): string {
  const cells = [columns as string[], ...rows.map((row) => row.map(shown))];
  const widths = columns.map((_, k) => Math.max(...cells.map((row) => (row[k] ?? '').length)));
  const line = (row: readonly string[]): string =>
    row.map((cell, k) => (k === 0 ? cell.padEnd(widths[k]!) : cell.padStart(widths[k]!))).join('  ');
  return [`\n${title}`, ...cells.map(line)].join('\n');
}
