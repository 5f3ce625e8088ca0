/** A text as it stands in HTML. */
export const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** A table of texts; cells after the first are figures, to the right. */
export function tableOf(heads: readonly string[], rows: readonly (readonly string[])[]): string {
  const head = heads.map((each) => `<th scope="col">${escaped(each)}</th>`).join('');
  const body = rows
    .map(([first, ...rest]) => {
      const cells = rest.map((each) => `<td>${each}</td>`).join('');
      return `<tr><th scope="row">${first}</th>${cells}</tr>`;
    })
    .join('');
  return `<table><thead><tr>${head}</tr></thead><tbody>${body}</tbody></table>`;
}

/** A figure as text, a minus as such; a dash where there is none. */
export const figure = (value: number | null, digits = 1): string =>
  value === null ? '–' : value.toFixed(digits).replace('-', '−');

const STYLE = `
  body { font: 14px/1.45 Georgia, serif; color: #26221c; background: #fff; max-width: 60rem; margin: 2rem auto; padding: 0 1.5rem; }
  h1 { font-size: 1.6rem; margin: 0 0 .2rem; } h2 { font-size: 1.15rem; margin: 1.8rem 0 .4rem; border-bottom: 1px solid #b8a88a; padding-bottom: .2rem; }
  p { margin: .3rem 0; } .quiet { color: #5d5446; }
  table { border-collapse: collapse; width: 100%; font: 13px/1.35 system-ui, sans-serif; font-variant-numeric: tabular-nums; }
  th, td { padding: .25rem .5rem; border-bottom: 1px solid #dccfb8; text-align: left; vertical-align: top; font-weight: 400; }
  thead th { color: #5d5446; border-color: #b8a88a; } tbody th { font-weight: 600; }
  figure { display: inline-block; margin: .4rem 1.2rem .4rem 0; } figcaption { font: 12px system-ui, sans-serif; color: #5d5446; }
  section { break-inside: avoid; }
  @media print { body { margin: 0; max-width: none; } a { color: inherit; } }
`;

/** A page that stands alone: no script, nothing fetched, fit to be printed. */
export function pageOf(title: string, body: string): string {
  return `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(title)}</title><style>${STYLE}</style></head>
<body>${body}</body>
</html>
`;
}
