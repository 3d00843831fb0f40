/** The page's only script: filters by outcome and area, and of tables by the words of their rows; on paper nothing is folded. Without it everything is shown. */
export const script = `
const pressed = new Set();
const area = document.querySelector('#area');
const buttons = [...document.querySelectorAll('.filters button')];
const status = document.querySelector('#shown');
function apply() {
  let shown = 0;
  for (const section of document.querySelectorAll('.area')) {
    let inside = 0;
    for (const item of section.querySelectorAll('.item')) {
      const fits = (pressed.size === 0 || pressed.has(item.dataset.outcome)) && (!area.value || area.value === section.dataset.area);
      item.hidden = !fits;
      if (fits) inside += 1;
    }
    section.hidden = inside === 0;
    shown += inside;
  }
  status.textContent = shown + ' items shown';
}
for (const button of buttons) button.addEventListener('click', () => {
  const outcome = button.dataset.outcome;
  if (pressed.has(outcome)) pressed.delete(outcome); else pressed.add(outcome);
  button.setAttribute('aria-pressed', String(pressed.has(outcome)));
  apply();
});
area.addEventListener('change', apply);
addEventListener('hashchange', () => {
  const target = document.getElementById(decodeURIComponent(location.hash.slice(1)));
  if (target && target.closest('[hidden]')) {
    pressed.clear(); area.value = '';
    for (const button of buttons) button.setAttribute('aria-pressed', 'false');
    apply(); target.scrollIntoView();
  }
});
for (const filter of document.querySelectorAll('.row-filter')) {
  const input = filter.querySelector('input');
  const rows = filter.parentElement.querySelectorAll('tbody tr');
  input.addEventListener('input', () => {
    const words = input.value.toLowerCase().split(/\\s+/);
    for (const row of rows) {
      const text = row.querySelector('th').textContent.toLowerCase();
      row.hidden = !words.every((word) => text.includes(word));
    }
  });
  filter.hidden = false;
}
const folded = [];
addEventListener('beforeprint', () => {
  for (const fold of document.querySelectorAll('details:not([open])')) { fold.open = true; folded.push(fold); }
});
addEventListener('afterprint', () => { for (const fold of folded.splice(0)) fold.open = false; });
document.querySelector('.filters').hidden = false;
apply();
`;
