/** The page on paper: dark ink on white whatever the screen has, nothing folded away, no finding torn apart. */
export const printCss = `
@page { size: A4; margin: 12mm 12mm 15mm; @bottom-right { content: counter(page) " / " counter(pages); font: 8pt sans-serif; color: #56616c; } }
@media print {
  :root {
    --paper: #ffffff; --sheet: #ffffff; --ink: #1c2630; --soft: #4a545e; --line: #c9c7be; --accent: #22577a; --accent-wash: #ffffff;
    --passed: #0b6a63; --failed: #a5341b; --cantTell: #7d5700; --untested: #4a545e; --inapplicable: #4a545e;
    --failed-wash: #f8e9e4; --cantTell-wash: #f6eeda; --passed-wash: #e3f0ee; --untested-wash: #eeeeea;
    color-scheme: light; print-color-adjust: exact; -webkit-print-color-adjust: exact;
  }
  body { font-size: 9.5pt; }
  main, header.top, footer { max-width: none; padding: 0; }
  .filters, .row-filter { display: none; }
  .sheet { border-radius: 0; padding: 3mm 0; border-width: 1px 0 0; margin: 0 0 4mm; }
  h2, h3, .area > header, .change > p, summary { break-after: avoid; }
  .finding, .next li, tr, .places li { break-inside: avoid; }
  .finding { grid-template-columns: 58mm minmax(0, 1fr); gap: 2mm 5mm; padding: 3mm; border-radius: 0; }
  .finding:has(.places) { break-inside: auto; } .finding > * { break-inside: avoid; } .finding > .places { break-inside: auto; }
  .finding.no-picture { grid-template-columns: minmax(0, 1fr); }
  .pictures { grid-template-columns: 19mm minmax(0, 1fr); gap: 2mm; }
  .pictures svg, .sides svg { max-height: 44mm; }
  /* a grid that pages cut leaves gaps */
  .item { display: block; padding: 2mm 0; } .item > .head { display: grid; grid-template-columns: 27mm minmax(0, 1fr); gap: 2mm; break-inside: avoid; }
  .item > .head:has(+ .finding) { break-after: avoid; } .finding { margin: 2mm 0; } dl { grid-template-columns: 18mm minmax(0, 1fr); gap: 0.6mm 3mm; margin-top: 1.5mm; }
  .places ul { grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 2mm; }
  .scroll { overflow: visible; }
  table { font-size: 7.5pt; } th, td { padding: 0.6mm 1.4mm; } thead th { white-space: normal; } thead { display: table-header-group; }
  td a { min-width: 0; min-height: 0; line-height: 1.4; } .variants td { padding: 0.6mm 1mm; }
  th[scope="row"] { white-space: normal; overflow-wrap: anywhere; }
  .roam svg { max-width: 100%; height: auto; max-height: 230mm; }
  a { text-decoration: none; }
}
`;
