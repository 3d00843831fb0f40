/**
 * Ordinary screens of made-up apps as pages: what a node of the tree is stands in attributes that begin with `n`, all else
 * only draws. Sizes of text are CSS variables, so that a page is laid out again at another text size, as a phone would.
 */
import type { Choice } from '../sheets/families.ts';

export type Language = 'en' | 'ar' | 'de';

const TEXTS = {
  settings: ['Settings', 'الإعدادات', 'Einstellungen'],
  sound: ['Sound', 'الصوت', 'Klang'],
  soundSub: ['Ring when a boat is near', 'رنين عند اقتراب القارب', 'Klingeln, wenn ein Boot naht'],
  offline: ['Save maps', 'حفظ الخرائط', 'Karten sichern'],
  offlineSub: ['Keep them on this phone', 'احتفظ بها على هذا الهاتف', 'Auf diesem Telefon behalten'],
  dark: ['Dark theme', 'المظهر الداكن', 'Dunkles Thema'],
  account: ['Account', 'الحساب', 'Konto'],
  privacy: ['Privacy', 'الخصوصية', 'Datenschutz'],
  about: ['About this app', 'حول هذا التطبيق', 'Über diese App'],
  general: ['General', 'عام', 'Allgemein'],
  back: ['Back', 'رجوع', 'Zurück'],
  search: ['Search', 'بحث', 'Suchen'],
  share: ['Share', 'مشاركة', 'Teilen'],
  keep: ['Keep', 'احتفاظ', 'Merken'],
  name: ['Full name', 'الاسم الكامل', 'Voller Name'],
  street: ['Street', 'الشارع', 'Straße'],
  city: ['City', 'المدينة', 'Ort'],
  terms: ['I have read the terms', 'لقد قرأت الشروط', 'Ich habe die Bedingungen gelesen'],
  send: ['Send', 'إرسال', 'Senden'],
  address: ['Your address', 'عنوانك', 'Ihre Anschrift'],
  sailings: ['Sailings', 'الرحلات', 'Fahrten'],
  morning: ['Morning crossing', 'رحلة الصباح', 'Morgenfahrt'],
  noon: ['Noon crossing', 'رحلة الظهر', 'Mittagsfahrt'],
  evening: ['Evening crossing', 'رحلة المساء', 'Abendfahrt'],
  night: ['Night crossing', 'رحلة الليل', 'Nachtfahrt'],
  seats: ['Many seats left', 'بقيت مقاعد كثيرة', 'Viele Plätze frei'],
  home: ['Home', 'الرئيسية', 'Start'],
  tickets: ['Tickets', 'التذاكر', 'Karten'],
  profile: ['Profile', 'الملف', 'Profil'],
  harbour: ['The old harbour', 'الميناء القديم', 'Der alte Hafen'],
  story: [
    'Boats have left from here for three hundred years. Come early, the quay is small.',
    'تغادر القوارب من هنا منذ ثلاثمئة عام. تعال مبكرا فالرصيف صغير.',
    'Seit dreihundert Jahren legen hier Boote ab. Kommen Sie früh, der Kai ist klein.',
  ],
  hours: ['Open all week', 'مفتوح طوال الأسبوع', 'Jeden Tag offen'],
  book: ['Book a seat', 'احجز مقعدا', 'Platz buchen'],
  playing: ['Songs of the sea', 'أغاني البحر', 'Lieder vom Meer'],
  artist: ['The quay choir', 'جوقة الرصيف', 'Der Kaichor'],
  position: ['Position in the song', 'موضع الأغنية', 'Stelle im Lied'],
  previous: ['Previous song', 'الأغنية السابقة', 'Voriges Lied'],
  play: ['Play', 'تشغيل الأغنية', 'Abspielen'],
  next: ['Next song', 'الأغنية التالية', 'Nächstes Lied'],
  volume: ['Volume', 'مستوى الصوت', 'Lautstärke'],
  details: ['Details', 'التفاصيل', 'Einzelheiten'],
} as const satisfies Record<string, readonly [string, string, string]>;
export type TextKey = keyof typeof TEXTS;

export const SIZES = [12, 14, 16, 18, 20, 24] as const;
type Size = (typeof SIZES)[number];

export interface Snapshot {
  language: Language;
  dark: boolean;
  font: string;
  accent: string;
  /** Of what there is more or less of, from app to app. */
  roomy: boolean;
  boxed: boolean;
}

export const lookOf = (of: Choice, language: Language): Snapshot => {
  const dark = of.chance(0.35);
  return {
    language,
    dark,
    font: language === 'ar' ? 'Cairo' : of.pick(['Roboto', 'Inter', 'Bitter']),
    accent: dark ? of.pick(['#a8c7fa', '#ffb951', '#7dd8a0']) : of.pick(['#0b57d0', '#7a2e8e', '#106b3a']),
    roomy: of.chance(0.5),
    boxed: of.chance(0.5),
  };
};

const escapeHtml = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** What pages are made of, in one look. */
function parts(look: Snapshot) {
  const at = { en: 0, ar: 1, de: 2 }[look.language];
  const say = (key: TextKey): string => escapeHtml(TEXTS[key][at]!);
  const text = (key: TextKey, size: Size, style = '', id: string = key) =>
    `<span class="t" n="android.widget.TextView" n-id="${id}" style="font-size:var(--s${size});${style}">${say(key)}</span>`;
  const glyph = (path: string, sizeDp = 24) =>
    `<svg width="${sizeDp}" height="${sizeDp}" viewBox="0 0 24 24" style="display:block"><path d="${path}" fill="none" stroke="currentColor" stroke-width="2.4"/></svg>`;
  const iconButton = (id: string, key: TextKey, path: string, turns = false) =>
    `<button class="ib${turns ? ' turns' : ''}" n="android.widget.ImageButton" n-id="${id}" n-label="${say(key)}" n-click>${glyph(path)}</button>`;
  const bar = (title: TextKey, ...actions: string[]) =>
    `<div class="bar" n="android.view.ViewGroup" n-id="toolbar">${iconButton('back', 'back', ARROW, true)}${text(title, 20, 'flex:1;font-weight:500', 'title')}${actions.join('')}</div>`;
  const scroll = (inside: string) =>
    `<div class="scroll" n="android.widget.ScrollView" n-id="scroll" n-scroll><div n="android.widget.LinearLayout" class="column">${inside}</div></div>`;
  const knob = (on: boolean) =>
    `<span class="knob${on ? ' on' : ''}" n="android.widget.Switch" n-checkable ${on ? 'n-checked' : ''}><i></i></span>`;
  const row = (id: string, title: TextKey, sub?: TextKey, end = '') =>
    `<div class="row" n="android.widget.LinearLayout" n-id="${id}" n-click><div class="grow" n="android.widget.LinearLayout">${text(title, 16, '', `${id}_title`)}${sub ? text(sub, 14, 'color:var(--soft)', `${id}_sub`) : ''}</div>${end}</div>`;
  const chevron = `<span class="turns" n="android.widget.ImageView" n-id="chevron">${glyph('M9 5l7 7-7 7')}</span>`;
  const button = (id: string, key: TextKey) =>
    `<button class="b" n="android.widget.Button" n-id="${id}" n-click style="font-size:var(--s16)">${say(key)}</button>`;
  return { bar, button, chevron, glyph, iconButton, knob, row, say, scroll, text };
}

export const ARROW = 'M20 12H5M12 5l-7 7 7 7';
const GLASS = 'M10 4a6 6 0 1 1 0 12a6 6 0 1 1 0-12M15 15l6 6';
const SHARE = 'M5 12v8h14v-8M12 15V3M8 7l4-4 4 4';
const HEART = 'M12 20C3 13 3 5 8 5c3 0 4 3 4 3s1-3 4-3c5 0 5 8-4 15z';
const PLAY = 'M7 4v16l13-8z';
const HOUSE = 'M3 12l9-8 9 8v9H3z';

export const screens: Record<string, (look: Snapshot) => string> = {
  settings(look) {
    const { bar, chevron, knob, row, scroll, text } = parts(look);
    return (
      bar('settings') +
      scroll(
        text('general', 14, 'color:var(--accent);padding:12px 16px') +
          row('sound_row', 'sound', 'soundSub', knob(true)) +
          row('offline_row', 'offline', 'offlineSub', knob(false)) +
          row('dark_row', 'dark', undefined, knob(look.dark)) +
          text('about', 14, 'color:var(--accent);padding:12px 16px', 'about_head') +
          row('account_row', 'account', undefined, chevron) +
          row('privacy_row', 'privacy', look.roomy ? 'offlineSub' : undefined, chevron),
      )
    );
  },
  form(look) {
    const { bar, button, say, scroll, text } = parts(look);
    const field = (id: string, key: TextKey, value: string) =>
      `${text(key, 14, 'color:var(--soft);padding:8px 16px 0', `${id}_label`)}<div class="field" n="android.widget.EditText" n-id="${id}" n-click style="font-size:var(--s16)">${value}</div>`;
    return (
      bar('address') +
      scroll(
        field('name', 'name', 'Nora Hagen') +
          field('street', 'street', 'Quay Road 14') +
          field('city', 'city', 'Kelpvik') +
          `<div class="row" n="android.widget.CheckBox" n-id="terms" n-click n-checkable n-text="${say('terms')}" style="font-size:var(--s16)"><span class="tick"></span><span style="flex:1">${say('terms')}</span></div>` +
          `<div style="padding:16px">${button('send', 'send')}</div>`,
      )
    );
  },
  list(look) {
    const { bar, glyph, iconButton, say, scroll, text } = parts(look);
    const card = (key: TextKey, price: string, n: number) =>
      `<div class="card" n="android.view.ViewGroup" n-id="card${n}" n-click><div class="grow" n="android.widget.LinearLayout" n-id="texts${n}">${text(key, 18, 'font-weight:500', `card${n}_title`)}${text('seats', 14, 'color:var(--soft)', `card${n}_sub`)}</div><span class="t" n="android.widget.TextView" n-id="card${n}_price" style="font-size:var(--s16);white-space:nowrap">${price}</span><button class="ib" n="android.widget.ImageButton" n-id="keep${n}" n-label="${say('keep')} ${say(key)}" n-click>${glyph(HEART)}</button></div>`;
    const tab = (id: string, key: TextKey, chosen = false) =>
      `<div class="tab" n="android.widget.FrameLayout" n-id="${id}" n-click ${chosen ? 'n-selected' : ''} style="${chosen ? 'color:var(--accent)' : ''}"><span n="android.widget.ImageView" n-id="${id}_icon">${glyph(HOUSE)}</span>${text(key, 12, 'color:inherit', `${id}_text`)}</div>`;
    return (
      bar('sailings', iconButton('search', 'search', GLASS)) +
      scroll(
        card('morning', '42 kr', 1) +
          card('noon', '38 kr', 2) +
          card('evening', '45 kr', 3) +
          (look.roomy ? '' : card('night', '60 kr', 4)),
      ) +
      `<div class="tabs" n="android.widget.LinearLayout" n-id="tabs">${tab('tab_home', 'home', true)}${tab('tab_tickets', 'tickets')}${tab('tab_profile', 'profile')}</div>`
    );
  },
  place(look) {
    const { bar, button, iconButton, scroll, text } = parts(look);
    return (
      bar('details', iconButton('share', 'share', SHARE)) +
      scroll(
        `<div class="picture"></div>${text('harbour', 24, 'padding:16px 16px 4px;font-weight:700')}${text('hours', 14, 'color:var(--soft);padding:0 16px')}${text('story', 16, 'padding:12px 16px;line-height:1.5')}<div class="pair" n="android.widget.LinearLayout" n-id="pair">${button('book', 'book')}${button('keep', 'keep')}</div>`,
      )
    );
  },
  player(look) {
    const { bar, glyph, iconButton, say, text } = parts(look);
    const slider = (id: string, key: TextKey, share: number) =>
      `<div class="slider" n="android.widget.SeekBar" n-id="${id}" n-label="${say(key)}" n-focus><i style="width:${share}%"></i></div>`;
    return (
      bar('playing') +
      `<div class="column" n="android.widget.LinearLayout" style="flex:1;padding:16px"><div class="picture" style="height:200px"></div>${text('playing', 24, 'padding:16px 0 4px;font-weight:700', 'song')}${text('artist', 16, 'color:var(--soft)')}${slider('seek', 'position', 40)}<div class="pair ltr" n="android.widget.LinearLayout" n-id="transport">${iconButton('previous', 'previous', 'M19 5v14L8 12zM6 5v14')}<button class="ib big" n="android.widget.ImageButton" n-id="play" n-label="${say('play')}" n-click>${glyph(PLAY, 32)}</button>${iconButton('next', 'next', 'M5 5v14l11-7zM18 5v14')}</div>${text('volume', 14, 'padding-top:16px')}${slider('volume_bar', 'volume', 70)}</div>`
    );
  },
};

/** A page whose variables give every size of text at the scale. */
export function pageOf(
  name: string,
  look: Snapshot,
  sizeAt: (size: number) => number,
  faces: string,
): string {
  const { accent, boxed, dark, font, language, roomy } = look;
  const [paper, ink, soft, line] = dark
    ? ['#141218', '#ece6f0', '#cac4d0', '#49454f']
    : ['#fefefe', '#1b1b1f', '#4b4b55', '#c9c9d2'];
  return `<!doctype html><html dir="${language === 'ar' ? 'rtl' : 'ltr'}"><style>${faces}
:root{--accent:${accent};--soft:${soft};${SIZES.map((size) => `--s${size}:${sizeAt(size)}px`).join(';')}}
*{box-sizing:border-box}
[n]{overflow:clip}
body{margin:0;height:100vh;overflow:hidden;display:flex;flex-direction:column;background:${paper};color:${ink};font-family:'${font}';line-height:1.35}
.t{display:block}
button{all:unset;box-sizing:border-box;cursor:pointer}
.bar{display:flex;align-items:center;min-height:64px;padding:0 4px;gap:8px;flex:none}
.ib{display:grid;place-items:center;width:48px;height:48px;flex:none}
.ib.big{width:64px;height:64px}
[dir=rtl] .turns svg{transform:scaleX(-1)}
.ltr{direction:ltr}
.scroll{flex:1;overflow:auto;min-height:0;scrollbar-width:none}
.column{display:flex;flex-direction:column}
.row{display:flex;align-items:center;gap:16px;min-height:${roomy ? 72 : 56}px;padding:8px 16px;${boxed ? `border-bottom:1px solid ${line}` : ''}}
.grow{flex:1;min-width:0}
.knob{width:48px;height:28px;border-radius:14px;flex:none;background:${paper};border:2px solid ${soft};padding:4px;display:flex}
.knob i{width:16px;height:16px;border-radius:8px;background:${soft}}
.knob.on{background:var(--accent);border-color:var(--accent);justify-content:end}
.knob.on i{background:${dark ? '#141218' : '#ffffff'}}
.field{margin:4px 16px 8px;min-height:56px;padding:14px;border:1px solid ${soft};border-radius:${boxed ? 4 : 14}px}
.tick{width:20px;height:20px;border:2px solid ${soft};border-radius:3px;flex:none}
.b{min-height:48px;padding:8px 24px;border-radius:24px;background:var(--accent);color:${dark ? '#141218' : '#ffffff'};font-weight:500;text-align:center;display:grid;align-items:center}
.card{display:flex;align-items:center;gap:12px;margin:${roomy ? '12px 16px' : '6px 12px'};padding:16px 4px 16px 16px;border:1px solid ${line};border-radius:${boxed ? 6 : 18}px}
.tabs{display:flex;border-top:1px solid ${line};flex:none}
.tab{flex:1;display:flex;flex-direction:column;align-items:center;justify-content:center;min-height:64px;padding:4px}
.picture{height:160px;background:linear-gradient(120deg,${accent},${paper})}
.pair{display:flex;gap:12px;padding:16px;justify-content:center;align-items:center;flex-wrap:wrap}
.slider{height:48px;display:flex;align-items:center;position:relative;margin-top:12px}
.slider:before{content:'';position:absolute;left:0;right:0;height:6px;border-radius:3px;background:${soft}}
.slider i{position:relative;height:6px;border-radius:3px;background:var(--accent);border-right:18px solid var(--accent)}
</style><body n="android.widget.FrameLayout" n-id="content">${screens[name]!(look)}</body></html>`;
}
