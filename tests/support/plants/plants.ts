/**
 * Defects as apps have them, and what only looks like one. Each changes how a page draws or what its nodes say; none knows
 * how anything is judged. `expect` names the checks of which one must find it; without it nothing may be found.
 */
import type { Choice } from '../sheets/families.ts';
import type { Language } from './screens.ts';

export interface Plant {
  kind: string;
  /** Which screens it can stand on. */
  on: readonly string[];
  language?: Language;
  /** Taken at these text sizes; the last is where it shows. */
  scales?: readonly number[];
  /** Another screen in the source language is at hand. */
  withSource?: true;
  expect?: readonly string[];
  /** Checks that may find what else the same change breaks. */
  also?: readonly string[];
  /** Shows only where a part of the text is really hidden. */
  hides?: true;
  /** Runs in the page with what `choose` gave; ids of nodes where it shows. */
  change: (of: PlantChoice) => string[];
  choose?: (of: Choice) => string;
}
export interface PlantChoice {
  value: string;
  at: number;
}

const NAMED = ['settings', 'list', 'place', 'player'] as const;

const named = (kind: string, expect: readonly string[] | undefined, values: readonly string[]): Plant => ({
  kind,
  on: NAMED,
  ...(expect && { expect }),
  choose: ({ pick }) => pick(values),
  change: ({ at, value }) => {
    const controls = [...document.querySelectorAll('[n="android.widget.ImageButton"]')];
    const control = controls[at % controls.length]!;
    control.setAttribute('n-label', value);
    return [control.getAttribute('n-id')!];
  },
});

const MEANINGLESS = ['meaningless-name'];

const names: readonly Plant[] = [
  named('no name', ['unnamed-control'], ['']),
  named('name of blanks', ['unnamed-control'], [' ', '\u00a0 ']),
  named('name of a file', MEANINGLESS, [
    'ic_arrow_24.png',
    'heart.svg',
    'IMG_20260412_0931.jpg',
    'assets/icons/share.webp',
    'banner@2x.png',
    'loader.json',
  ]),
  named('name of a resource', MEANINGLESS, [
    '@drawable/ic_share',
    'R.drawable.back',
    'ic_share_24',
    'btn_more',
    'com.sail.app:id/fab',
    'res/drawable/heart.xml',
    'icon-heart-filled',
  ]),
  named('generated id', MEANINGLESS, [
    'view_1283',
    'node-42',
    '0x7f0a00c3',
    '9c1f4d0e-77aa-4b1c-9a0e-1f7de2aa90cd',
    'item_7',
    'button3',
  ]),
  named('identifier', MEANINGLESS, [
    'shareButton',
    'btnShare',
    'fabAddTicket',
    'heartIcon',
    'share_button',
    'toolbar_back',
    'ivHeart',
  ]),
  named('null', MEANINGLESS, [
    'null',
    'undefined',
    'nil',
    'NaN',
    '(null)',
    'Optional("x")',
    '[object Object]',
  ]),
  named('filler', MEANINGLESS, [
    'Lorem ipsum',
    'TODO',
    'Content description',
    'placeholder',
    '%1$s',
    '{{label}}',
    '{name}',
    'Untitled',
    'asdf',
    'alt text',
  ]),
  named('only a role', MEANINGLESS, ['Button', 'button', 'Schaltfläche', 'Knapp', 'Przycisk', 'زر']),
  named('only a state', MEANINGLESS, [
    'on',
    'Off',
    'selected',
    'nicht ausgewählt',
    'Wył.',
    'Disabled',
    'ikke valgt',
  ]),
  named('a class name', MEANINGLESS, [
    'ImageButton',
    'android.widget.ImageView',
    'AppCompatImageButton',
    'UIButton',
    'ImageView',
    'FloatingActionButton',
  ]),
  named(
    'role at an end',
    ['role-in-name'],
    [
      'Share button',
      'Button share',
      'Teilen-Schaltfläche',
      'Dele knapp',
      'Przycisk udostępnij',
      'زر المشاركة',
      'Share icon',
      'Delete (button)',
      'Share, button',
    ],
  ),
  named('good names with such words', undefined, [
    'Image settings',
    'Button colours',
    'Switch account',
    'Tab overview',
    'Link sharing',
    'Icon pack',
    'Turn on the lights',
    'Selected works',
    'Set off',
    'Open file',
    'Text size',
    'Image of the harbour',
  ]),
  named('good names of odd form', undefined, [
    'iPhone',
    'eBay',
    'QR',
    'Wi-Fi',
    '5G',
    'A4',
    'Q&A',
    'mm/s²',
    'C++',
    '24/7',
    '3D',
    'PDF',
    'OK',
    'Route 66',
    'COVID-19',
    'H2O',
    'McDonald',
    'e-mail',
    'LaTeX',
    'YouTube',
    'macOS',
  ]),
  {
    kind: 'nameless slider',
    on: ['player'],
    expect: ['unnamed-control'],
    change: ({ at }) => {
      const sliders = document.querySelectorAll('[n="android.widget.SeekBar"]');
      const slider = sliders[at % sliders.length]!;
      slider.setAttribute('n-label', '');
      return [slider.getAttribute('n-id')!];
    },
  },
  {
    kind: 'silent focus',
    on: ['settings', 'list', 'place'],
    expect: ['unnamed-control'],
    change: () => {
      const bar = document.querySelector('[n-id=toolbar]')!;
      bar.insertAdjacentHTML(
        'beforeend',
        '<div n="android.view.View" n-id="silent" n-focus style="width:48px;height:48px"></div>',
      );
      return ['silent'];
    },
  },
  {
    kind: 'switch on its own',
    on: ['settings'],
    expect: ['unnamed-control'],
    change: () => {
      const knob = document.querySelector('.knob')!;
      const row = knob.parentElement!;
      row.removeAttribute('n-click');
      knob.setAttribute('n-click', '');
      knob.setAttribute('n-id', 'sound_switch');
      (knob as HTMLElement).style.cssText = 'min-width:64px;min-height:48px;border-radius:24px';
      return ['sound_switch'];
    },
  },
  {
    kind: 'switches in their rows',
    on: ['settings'],
    change: () => {
      const list = document.querySelector('.scroll > *')!;
      const row = document.querySelector('[n-id=sound_row]')!;
      const other = row.cloneNode(true) as HTMLElement;
      other.setAttribute('n-id', 'other_row');
      other.querySelector('.t')!.textContent = 'Vibrate';
      list.append(other);
      return [];
    },
  },
  {
    kind: 'focus on what has no size',
    on: ['settings', 'list', 'place', 'player'],
    expect: ['unseen-focus'],
    choose: ({ pick }) =>
      pick([
        'width:0;height:0',
        'position:fixed;left:-400px;top:90px;width:200px;height:60px',
        'position:fixed;left:60px;top:-90px;width:90px;height:60px',
        'position:fixed;left:120vw;top:200px;width:90px;height:60px',
      ]),
    change: ({ value }) => {
      document.body.insertAdjacentHTML(
        'beforeend',
        `<div n="android.view.View" n-id="ghost" n-label="Open menu" n-click n-keep style="${value}"></div>`,
      );
      return ['ghost'];
    },
  },
  {
    kind: 'no size and no focus',
    on: ['settings', 'list', 'place', 'player'],
    choose: ({ pick }) =>
      pick(['width:0;height:0', 'position:fixed;left:-400px;top:90px;width:200px;height:60px']),
    change: ({ value }) => {
      document.body.insertAdjacentHTML(
        'beforeend',
        `<div n="android.view.View" n-id="spacer" n-keep style="${value}"></div>`,
      );
      return [];
    },
  },
  {
    kind: 'scrolled out of sight',
    on: ['settings', 'form', 'list', 'place'],
    change: () => {
      document
        .querySelector('.scroll > *')!
        .insertAdjacentHTML(
          'beforeend',
          `<div n="android.view.View" n-id="below" n-label="Open menu" n-click n-keep style="position:fixed;top:120vh;left:0;width:90px;height:60px"></div>`,
        );
      return [];
    },
  },
  {
    kind: 'strip of a row at the edge',
    on: ['settings', 'list'],
    expect: ['cut'],
    change: () => {
      const scroll = document.querySelector('.scroll')!;
      (scroll as HTMLElement).style.position = 'relative';
      scroll.insertAdjacentHTML(
        'beforeend',
        '<div n="android.widget.LinearLayout" n-id="strip" n-click style="position:absolute;left:0;right:0;bottom:0;height:9px"></div>',
      );
      return ['strip'];
    },
  },
];

/** Ways in which a text that grows is lost, and ways in which it is not. */
const grown = (kind: string, on: readonly string[], isHarm: boolean, change: Plant['change']): Plant => ({
  kind,
  on,
  scales: [1, 2],
  ...(isHarm && { expect: ['text-scaling'], also: ['text-contrast', 'small-target', 'icon-contrast'] }),
  ...(/^(ends|cut|pushed)/.test(kind) && { hides: true }),
  change,
});

const sizes: readonly Plant[] = [
  grown('nothing but growth', ['settings', 'list', 'place', 'form', 'player'], false, () => []),
  grown('does not grow', ['settings', 'list', 'place'], true, ({ at }) => {
    const all = [...document.querySelectorAll<HTMLElement>('.scroll .t')].filter(
      (of) => of.textContent.length > 6,
    );
    const text = all[at % Math.min(3, all.length)]!;
    text.style.fontSize = '15px';
    return [text.getAttribute('n-id')!];
  }),
  grown('ends in dots', ['settings', 'list'], true, ({ at }) => {
    const all = [...document.querySelectorAll<HTMLElement>('.grow > .t')];
    const text = all[at % Math.min(4, all.length)]!;
    text.style.cssText +=
      ';white-space:nowrap;overflow:hidden;text-overflow:ellipsis;max-width:' +
      (text.scrollWidth === text.clientWidth ? `${Math.ceil(textWidth(text)) + 3}px` : '100%');
    return [text.getAttribute('n-id')!];
    function textWidth(of: HTMLElement): number {
      const range = document.createRange();
      range.selectNodeContents(of);
      const base = Number.parseFloat(
        getComputedStyle(document.documentElement).getPropertyValue('--base') || '1',
      );
      return range.getBoundingClientRect().width / base;
    }
  }),
  grown('cut at its foot', ['settings', 'list', 'form'], true, ({ at }) => {
    const all = [...document.querySelectorAll<HTMLElement>('.t')].filter(
      (of) => of.parentElement!.className !== 'tab',
    );
    const text = all[at % Math.min(5, all.length)]!;
    text.style.cssText +=
      ';height:26px;flex:none;overflow:hidden;white-space:nowrap;padding-top:0;padding-bottom:0';
    return [text.getAttribute('n-id')!];
  }),
  grown('cut at its top', ['settings', 'list'], true, ({ at }) => {
    const all = [...document.querySelectorAll<HTMLElement>('.grow > .t')];
    const text = all[at % Math.min(4, all.length)]!;
    const line = text.innerHTML;
    text.style.cssText += ';height:24px;overflow:hidden;white-space:nowrap;display:flex;align-items:flex-end';
    text.innerHTML = `<span>${line}</span>`;
    return [text.getAttribute('n-id')!];
  }),
  grown('cut at its side', ['list', 'place', 'settings'], true, ({ at }) => {
    const all = [...document.querySelectorAll<HTMLElement>('.scroll .t')].filter(
      (of) => of.textContent.length > 8 && of.textContent.length < 30,
    );
    const text = all[at % Math.min(4, all.length)]!;
    text.style.cssText += ';white-space:nowrap;overflow:hidden;width:190px;flex:none';
    return [text.getAttribute('n-id')!];
  }),
  grown('pushed out of its card', ['list'], true, ({ at }) => {
    const n = (at % 2) + 1;
    const card = document.querySelector<HTMLElement>(`[n-id=card${n}]`)!;
    card.style.cssText += ';height:92px;align-items:flex-start;overflow:hidden';
    card.querySelector<HTMLElement>(`[n-id=card${n}_sub]`)!.style.marginTop = 'calc(var(--s18) - 6px)';
    card.querySelector<HTMLElement>(`[n-id=card${n}_title]`)!.style.whiteSpace = 'normal';
    return [`card${n}_sub`, `card${n}_title`, `keep${n}`];
  }),
  grown('pushed out of its row', ['list'], true, ({ at }) => {
    const n = (at % 2) + 1;
    const texts = document.querySelector<HTMLElement>(`[n-id=texts${n}]`)!;
    texts.style.cssText += ';flex:none;width:calc(var(--s18) * 13)';
    const price = document.querySelector<HTMLElement>(`[n-id=card${n}_price]`)!;
    price.style.flex = 'none';
    return [`card${n}_price`, `card${n}_title`, `card${n}_sub`, `keep${n}`];
  }),
  grown('laid over another', ['settings', 'list'], true, ({ at }) => {
    const rows = [...document.querySelectorAll<HTMLElement>('.grow')].filter((of) => of.children.length > 1);
    const row = rows[at % rows.length]!;
    const [first, second] = [...row.children] as HTMLElement[];
    row.style.cssText += ';position:relative;min-height:50px';
    first!.style.cssText += ';position:absolute;top:0;left:0;right:0';
    second!.style.cssText += ';position:absolute;top:26px;left:0;right:0';
    return [first!.getAttribute('n-id')!, second!.getAttribute('n-id')!];
  }),
  grown('scrolled away', ['settings', 'form', 'place', 'list'], false, () => {
    document
      .querySelector('.scroll > *')!
      .insertAdjacentHTML('afterbegin', '<div style="height:calc(var(--s24) * 8)"></div>');
    return [];
  }),
  grown('goes under its icon', ['list'], false, ({ at }) => {
    const n = (at % 2) + 1;
    document.querySelector<HTMLElement>(`[n-id=card${n}]`)!.style.flexWrap = 'wrap';
    document.querySelector<HTMLElement>(`[n-id=texts${n}]`)!.style.flexBasis = 'calc(var(--s18) * 10)';
    return [];
  }),
  grown('wraps to more lines', ['settings', 'list'], false, ({ at }) => {
    const all = [...document.querySelectorAll<HTMLElement>('.grow')];
    all[at % all.length]!.style.maxWidth = '210px';
    return [];
  }),
];

const sides: readonly Plant[] = [
  {
    kind: 'right-to-left as it should be',
    on: ['settings', 'list', 'place', 'player', 'form'],
    language: 'ar',
    change: () => [],
  },
  {
    kind: 'a row left as it was',
    on: ['settings', 'list'],
    language: 'ar',
    expect: ['not-mirrored'],
    change: () => {
      for (const row of document.querySelectorAll<HTMLElement>('.row, .card')) row.style.direction = 'ltr';
      return ['screen'];
    },
  },
  {
    kind: 'a whole screen left as it was',
    on: ['settings', 'list', 'form', 'place'],
    language: 'ar',
    expect: ['not-mirrored'],
    change: () => {
      document.documentElement.dir = 'ltr';
      return ['screen'];
    },
  },
  {
    kind: 'an arrow left as it was',
    on: ['settings', 'list', 'place', 'player', 'form'],
    language: 'ar',
    expect: ['not-mirrored'],
    change: () => {
      const arrow = document.querySelector('.bar .turns svg') as SVGElement;
      arrow.style.transform = 'none';
      return ['back'];
    },
  },
  {
    kind: 'texts at the wrong edge',
    on: ['settings', 'list', 'place'],
    language: 'ar',
    expect: ['not-mirrored'],
    change: () => {
      const ids: string[] = [];
      for (const text of document.querySelectorAll<HTMLElement>('.scroll .t')) {
        text.style.cssText +=
          ';width:max-content;max-width:100%;margin-right:auto;margin-left:0;text-align:left';
        ids.push(text.getAttribute('n-id')!);
      }
      return ['screen', ...ids];
    },
  },
  {
    kind: 'left in the source language',
    on: ['settings', 'list', 'place', 'form'],
    language: 'ar',
    expect: ['untranslated-on-screen'],
    choose: ({ pick }) =>
      pick([
        'Ring when a boat is near',
        'Many seats left',
        'Morning crossing',
        'Book a seat now',
        'Your tickets for today',
      ]),
    change: ({ at, value }) => {
      const all = [...document.querySelectorAll<HTMLElement>('.scroll .t')];
      const text = all[at % Math.min(4, all.length)]!;
      text.textContent = value;
      return [text.getAttribute('n-id')!];
    },
  },
  {
    kind: 'left in the source language, same letters',
    on: ['settings', 'list', 'place'],
    language: 'de',
    withSource: true,
    expect: ['untranslated-on-screen'],
    choose: ({ pick }) => pick(['0', '1', '2']),
    change: ({ at }) => {
      const english: Record<string, string> = (window as unknown as { english: Record<string, string> })
        .english;
      const all = [...document.querySelectorAll<HTMLElement>('.scroll .t')].filter((of) =>
        (english[of.getAttribute('n-id')!] ?? '').match(/^\p{L}+( \p{L}+)+$/u),
      );
      const text = all[at % Math.min(4, all.length)]!;
      text.textContent = english[text.getAttribute('n-id')!]!;
      return [text.getAttribute('n-id')!];
    },
  },
  {
    kind: 'names and numbers in their own letters',
    on: ['settings', 'list', 'place'],
    language: 'ar',
    choose: ({ pick }) =>
      pick([
        'Kelpline',
        '42 kr',
        'Wi-Fi',
        'nora@kelpline.example',
        'QR',
        'Nora Hagen',
        '+47 22 33 44 55',
        'PDF',
      ]),
    change: ({ at, value }) => {
      const all = [...document.querySelectorAll<HTMLElement>('.scroll .t')];
      all[at % all.length]!.textContent = value;
      return [];
    },
  },
  {
    kind: 'the same in both languages',
    on: ['settings', 'list'],
    language: 'de',
    withSource: true,
    choose: ({ pick }) => pick(['Kelpline', 'Wi-Fi', 'Nora Hagen', 'PDF', 'Bluetooth', 'Podcast']),
    change: ({ at, value }) => {
      const all = [...document.querySelectorAll<HTMLElement>('.scroll .t')];
      all[at % all.length]!.textContent = value;
      return [];
    },
  },
];

const overlays: readonly Plant[] = [
  {
    kind: 'behind a scrim',
    on: ['settings', 'form', 'list', 'place', 'player'],
    change: () => {
      document.body.insertAdjacentHTML(
        'beforeend',
        `<div n="android.view.View" n-id="scrim" n-click n-label="Close" style="position:fixed;inset:0;background:rgba(0,0,0,.6)"></div><div n="android.widget.FrameLayout" n-id="sheet" style="position:fixed;left:0;right:0;bottom:0;height:240px;background:#f4f0fa;color:#1b1b1f;padding:24px"><span class="t" n="android.widget.TextView" n-id="sheet_title" style="font-size:24px">Choose a day</span><span class="t" n="android.widget.TextView" n-id="sheet_text" style="font-size:16px;padding-top:16px">Boats leave every hour.</span></div>`,
      );
      return [];
    },
  },
];

export const plants: readonly Plant[] = [...names, ...sizes, ...sides, ...overlays];
