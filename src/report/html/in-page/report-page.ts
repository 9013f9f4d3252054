/** What the page does when scripts may run: filters, an order of one's own, and buttons that copy. Without them all is there to read. */

const all = <Kind extends Element>(selector: string, within: ParentNode = document) => [
  ...within.querySelectorAll<Kind>(selector),
];
const valueOf = (name: string) => document.querySelector<HTMLSelectElement>(`#${name}`)?.value ?? '';
const has = (list: string | undefined, value: string) =>
  value === '' || (list ?? '').split(' ').includes(value);

function apply(): void {
  const [page, check, screen, order] = ['page', 'check', 'screen', 'order'].map((name) =>
    valueOf(`choose-${name}`),
  );
  let shown = 0;
  for (const fix of all<HTMLElement>('.fix')) {
    const fits =
      has(fix.dataset['pages'], page ?? '') &&
      has(fix.dataset['checks'], check ?? '') &&
      has(fix.dataset['screens'], screen ?? '');
    const item = fix.closest('li');
    if (item) item.hidden = !fits;
    if (fits) shown++;
  }
  for (const page of all<HTMLElement>('.page'))
    page.hidden = !has(page.dataset['page'], valueOf('choose-page'));
  for (const list of all<HTMLElement>('.fixes')) sort(list, order ?? 'share');
  const told = document.querySelector('#shown');
  if (told) told.textContent = `${shown} of ${all('.fix').length} fixes shown`;
}

function sort(list: HTMLElement, order: string): void {
  const items = [...list.children];
  const key = (item: Element) => {
    const fix = item.querySelector<HTMLElement>('.fix');
    return order === 'share'
      ? -Number(fix?.dataset['rank'])
      : Number(JSON.parse(fix?.dataset['saves'] ?? '{}')[order] ?? 0);
  };
  items.sort((a, b) => key(b) - key(a) || rank(a) - rank(b));
  list.append(...items);
}

const rank = (item: Element) => Number(item.querySelector<HTMLElement>('.fix')?.dataset['rank']);

async function copy(button: HTMLButtonElement): Promise<void> {
  const text = document.getElementById(button.dataset['copies'] ?? '')?.textContent ?? '';
  try {
    await navigator.clipboard.writeText(text);
  } catch {
    // Where a page may not write to the clipboard by itself, it may still copy what is selected.
    const area = document.createElement('textarea');
    area.value = text;
    document.body.append(area);
    area.select();
    document.execCommand('copy');
    area.remove();
  }
  const label = button.textContent;
  button.textContent = 'copied';
  setTimeout(() => (button.textContent = label), 1500);
}

for (const tool of all<HTMLElement>('[data-needs-script]')) tool.hidden = false;
for (const select of all('.tools select')) select.addEventListener('change', apply);
for (const button of all<HTMLButtonElement>('button[data-copies]'))
  button.addEventListener('click', () => void copy(button));
document.querySelector('#open-all')?.addEventListener('click', () => {
  const closed = all<HTMLDetailsElement>('.fix').filter((fix) => !fix.closest('li')?.hidden);
  const open = closed.some((fix) => !fix.open);
  for (const fix of closed) fix.open = open;
});

/** A link to a fix, or to a page, opens it. */
function openTarget(): void {
  const target = document.getElementById(decodeURIComponent(location.hash.slice(1)));
  if (!(target instanceof HTMLDetailsElement)) return;
  target.open = true;
  target.scrollIntoView();
}
addEventListener('hashchange', openTarget);
openTarget();
addEventListener('beforeprint', () => {
  for (const each of all<HTMLDetailsElement>('details.fix')) each.open = true;
});
export {};
