import { printCss } from './print.ts';

/** The look of the report: a sheet of paper on a workbench, light and dark. */
export const css = `
:root {
  --paper: #faf9f5; --sheet: #ffffff; --ink: #1c2630; --soft: #56616c; --line: #d8d6cd; --accent: #22577a; --accent-wash: #e6eef3;
  --passed: #0b6a63; --failed: #a5341b; --cantTell: #7d5700; --untested: #56616c; --inapplicable: #56616c;
  --failed-wash: #f8e9e4; --cantTell-wash: #f6eeda; --passed-wash: #e3f0ee; --untested-wash: #eeeeea;
  color-scheme: light dark;
}
@media (prefers-color-scheme: dark) {
  :root {
    --paper: #14191e; --sheet: #1b2229; --ink: #e9e7df; --soft: #a9b2ba; --line: #343d46; --accent: #8fc1e3; --accent-wash: #21303c;
    --passed: #6cc9bf; --failed: #f0957c; --cantTell: #e2b75a; --untested: #a9b2ba; --inapplicable: #a9b2ba;
    --failed-wash: #3a221c; --cantTell-wash: #352b15; --passed-wash: #16302d; --untested-wash: #252c33;
  }
}
* { box-sizing: border-box; }
[hidden] { display: none !important; }
body { margin: 0; background: var(--paper); color: var(--ink); font: 16px/1.5 "Atkinson Hyperlegible Next", "Noto Kufi Arabic", system-ui, sans-serif; }
main, header.top { max-width: 76rem; margin: 0 auto; padding: 0 1.5rem; overflow-wrap: anywhere; }
header.top { padding-top: 1.6rem; }
h1, h2, h3 { line-height: 1.25; margin: 0; text-wrap: balance; }
h1 { font-size: 1.05rem; font-weight: 500; color: var(--soft); }
h1 b { color: var(--ink); font-weight: 700; }
h2 { font-size: 1.3rem; font-weight: 700; }
h3 { font-size: 1.05rem; font-weight: 650; }
a { color: var(--accent); text-underline-offset: 0.15em; }
code, .value { font-family: "Atkinson Hyperlegible Mono", "Noto Kufi Arabic", ui-monospace, monospace; font-size: 0.92em; }
.verdict { font-size: 1.75rem; font-weight: 750; margin: 0.35rem 0 0.9rem; letter-spacing: -0.01em; }
.verdict .mark { margin-inline-end: 0.5rem; }
.passed { color: var(--passed); } .failed { color: var(--failed); } .cantTell { color: var(--cantTell); } .untested { color: var(--untested); } .inapplicable { color: var(--inapplicable); }
.counts { display: flex; flex-wrap: wrap; gap: 0.4rem 1.4rem; margin: 0 0 1.4rem; padding: 0; list-style: none; font-variant-numeric: tabular-nums; }
.counts b { font-size: 1.15rem; }
.sheet { background: var(--sheet); border: 1px solid var(--line); border-radius: 10px; padding: 1.1rem 1.3rem; margin: 0 0 1.2rem; }
.next ol { margin: 0.5rem 0 0; padding-inline-start: 1.4rem; }
.next li { margin: 0.45rem 0; padding-inline-start: 0.2rem; }
.next li code { display: inline-block; background: var(--untested-wash); padding: 0.05rem 0.45rem; border-radius: 5px; overflow-wrap: anywhere; }
.filters { position: sticky; top: 0; z-index: 2; background: var(--paper); border-bottom: 1px solid var(--line); margin: 0 -1.5rem 1.2rem; padding: 0.6rem 1.5rem; display: flex; flex-wrap: wrap; align-items: center; gap: 0.5rem 1rem; }
.filters fieldset { border: 0; margin: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 0.4rem; align-items: center; }
.filters legend { float: inline-start; padding: 0; margin-inline-end: 0.5rem; color: var(--soft); line-height: 2.75rem; }
.filters button { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--soft); border-radius: 999px; min-height: 2.75rem; padding: 0 1rem; cursor: pointer; }
.filters button[aria-pressed="true"] { background: var(--accent); border-color: var(--accent); color: var(--paper); }
.filters button[aria-pressed="true"] span { color: inherit; }
.filters select, .row-filter input { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--soft); border-radius: 8px; min-height: 2.75rem; padding: 0 0.6rem; max-width: 100%; }
:focus-visible { outline: 3px solid var(--accent); outline-offset: 2px; }
.area > header { display: flex; flex-wrap: wrap; align-items: baseline; gap: 0.2rem 1.2rem; margin: 1.8rem 0 0.7rem; }
.area > header ul { display: flex; flex-wrap: wrap; gap: 0 1.1rem; margin: 0; padding: 0; list-style: none; font-size: 0.95rem; }
.item { border-top: 1px solid var(--line); padding: 0.65rem 0; display: grid; grid-template-columns: 8.2rem 1fr; gap: 0 0.8rem; }
.item:first-of-type { border-top: 0; } .item > .head { display: contents; }
.item .says p { margin: 0; }
.item .note { color: var(--soft); font-size: 0.92rem; }
.state { font-weight: 650; white-space: nowrap; }
.finding { grid-column: 1 / -1; display: grid; grid-template-columns: 21rem minmax(0, 1fr); gap: 1rem 1.6rem; background: var(--sheet); border: 1px solid var(--line); border-inline-start: 4px solid currentColor; border-radius: 8px; padding: 1.1rem 1.2rem; margin: 0.8rem 0 0.3rem; }
.area, .item, .finding { scroll-margin-top: 5rem; }
.finding > * { color: var(--ink); }
.finding.no-picture { grid-template-columns: minmax(0, 1fr); }
.finding .places { grid-column: 1 / -1; border-top: 1px solid var(--line); padding-top: 0.7rem; }
.places ul { list-style: none; margin: 0.7rem 0 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr)); gap: 0.9rem; }
.places li { display: grid; gap: 0.35rem; align-content: start; scroll-margin-top: 5rem; }
.places svg { width: 100%; height: 7rem; border: 1px solid var(--line); border-radius: 6px; }
.finding .name { color: var(--soft); font-weight: 400; }
.pictures { display: grid; grid-template-columns: 7.2rem minmax(0, 1fr); gap: 0.7rem; align-items: start; }
.pictures svg { display: block; width: 100%; height: auto; border: 1px solid var(--line); border-radius: 6px; background: var(--untested-wash); }
.pictures p { margin: 0.35rem 0 0; font-size: 0.88rem; }
.halo { fill: none; stroke: #ffffff; } .outline { fill: none; stroke: #c02626; }
dl { display: grid; grid-template-columns: 5.6rem minmax(0, 1fr); gap: 0.3rem 0.9rem; margin: 0.7rem 0 0; }
dt { color: var(--soft); } dd { margin: 0; overflow-wrap: anywhere; }
.swatches { display: flex; flex-wrap: wrap; gap: 0.8rem; margin: 0.9rem 0 0; padding: 0; list-style: none; }
.swatches svg { display: block; width: 8.5rem; height: 3rem; border: 1px solid var(--line); border-radius: 6px; }
.swatches span { display: block; font-size: 0.88rem; margin-top: 0.15rem; }
.ruling { margin: 0.7rem 0 0; padding: 0.4rem 0.7rem; background: var(--passed-wash); border-radius: 6px; }
.scroll { overflow-x: auto; }
table { border-collapse: collapse; font-variant-numeric: tabular-nums; }
th, td { padding: 0.35rem 0.8rem; text-align: center; border-bottom: 1px solid var(--line); white-space: nowrap; }
th[scope="row"], thead th:first-child { text-align: start; }
thead th { font-weight: 500; color: var(--soft); vertical-align: bottom; }
td a { text-decoration: none; display: inline-block; min-width: 2.75rem; min-height: 1.9rem; line-height: 1.9rem; border-radius: 6px; }
td a.failed { background: var(--failed-wash); } td a.cantTell { background: var(--cantTell-wash); }
.variants td { padding: 0.35rem 0.6rem; line-height: 1.3; } .variants small { color: var(--soft); font-size: 0.82rem; }
.theme-pairs details { border-top: 1px solid var(--line); } .theme-pairs summary { min-height: 2.75rem; padding: 0.6rem 0; cursor: pointer; }
.theme-pairs td { font-variant-numeric: tabular-nums; text-align: start; } .theme-pairs td svg { width: 1.75rem; height: 1rem; vertical-align: -0.15rem; border: 1px solid var(--line); border-radius: 3px; margin-inline-start: 0.5rem; }
.theme-pairs th[scope="row"] { font-weight: 400; white-space: normal; }
footer { max-width: 76rem; margin: 2rem auto; padding: 0 1.5rem 2rem; color: var(--soft); font-size: 0.92rem; }
@media (max-width: 56rem) { .finding { grid-template-columns: minmax(0, 1fr); } .pictures { max-width: 26rem; } }
@media (max-width: 40rem) {
  main, header.top { padding: 0 1rem; } header.top { padding-top: 1.1rem; } .verdict { font-size: 1.35rem; }
  .filters { position: static; margin: 0 -1rem 1rem; padding: 0.6rem 1rem; }
  .item { grid-template-columns: minmax(0, 1fr); } .sheet { padding: 0.9rem 1rem; } .finding { padding: 0.9rem; } dl { grid-template-columns: minmax(0, 1fr); gap: 0; } dd { margin-bottom: 0.45rem; }
}

.change > h2 { margin: 1.8rem 0 0.2rem; } .change > h2 b { font-variant-numeric: tabular-nums; } .change > p { margin: 0 0 0.6rem; color: var(--soft); }
.sides { display: grid; grid-template-columns: 1fr 1fr; gap: 0.7rem; align-items: start; } .sides svg { display: block; width: 100%; height: auto; border: 1px solid var(--line); border-radius: 6px; background: var(--untested-wash); }
.sides figure { margin: 0; } .sides figcaption { font-size: 0.88rem; color: var(--soft); margin-bottom: 0.25rem; } .sides .none { border: 1px dashed var(--line); border-radius: 6px; padding: 1.4rem 0.6rem; text-align: center; color: var(--soft); font-size: 0.92rem; }
.lines { margin: 0.4rem 0; padding-inline-start: 1.4rem; } .lines li { margin: 0.25rem 0; }
${printCss}`;
