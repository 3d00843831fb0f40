/**
 * Texts in many type designs, whose size and weight are known, and what is told of them from their glyphs alone.
 *
 * Each weight of a design is drawn from its own file, by the painter of the stand-in phone, in several sizes and two densities.
 */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { renderAsync } from '@resvg/resvg-js';
import * as fontkit from 'fontkit';
import { DESIGNS, sourceFolder } from '../../scripts/corpora.mjs';
import { observeTextContrast } from '../../src/core/areas/contrast/observers/observe-text-contrast.ts';
import type { TextContrastFact } from '../../src/core/model/fact.ts';
import { screenEvidence, ui } from './facts.ts';
import { typefaces } from './sheets/typefaces.ts';

export interface Design {
  name: string;
  script: string;
  /** By weight. */
  files: Record<number, string>;
}

export interface Told {
  design: string;
  script: string;
  text: string;
  sizeDp: number;
  weight: number;
  /** Nothing where the text was not measured. */
  told?: { sizeDp: readonly [number, number]; bold: boolean | 'unknown' };
}

const SCRIPTS: Record<string, readonly string[]> = {
  Hebrew: ['heebo', 'assistant', 'frank-ruhl-libre', 'noto-serif-hebrew', 'alef'],
  Arabic: ['noto-sans-arabic', 'tajawal', 'almarai', 'amiri', 'noto-naskh-arabic', 'el-messiri'],
  Devanagari: ['hind', 'mukta', 'noto-serif-devanagari', 'baloo-2'],
  Thai: ['kanit', 'prompt', 'sarabun', 'ibm-plex-sans-thai', 'mitr', 'bai-jamjuree'],
  Bengali: ['noto-sans-bengali', 'noto-serif-bengali', 'hind-siliguri'],
  Tamil: ['noto-sans-tamil', 'mukta-malar', 'hind-madurai'],
};
const scriptOf = (name: string): string =>
  Object.keys(SCRIPTS).find((script) => SCRIPTS[script]!.includes(name)) ?? 'Latin';

const TEXTS: Record<string, readonly string[]> = {
  Latin: [
    'Choose a seat',
    'Settings',
    'SIGN IN',
    'Day',
    'near me now',
    'Total 1.250,00',
    'Forgot password?',
    '3 left',
    'OK',
    'Delivery by Monday 12 June',
  ],
  Cyrillic: ['Расписание', 'Причал закрыт', 'ещё два билета', 'Добавить'],
  Greek: ['Δρομολόγια', 'Κράτηση θέσης', 'Αποθήκευση'],
  Hebrew: ['לוח זמנים', 'בחירת מושב', 'שמור', 'כל ההודעות שלי'],
  Arabic: ['جدول الرحلات', 'اختر مقعدا', 'حفظ', 'جميع الرسائل'],
  Devanagari: ['समय सारणी', 'सीट चुनें', 'सहेजें', 'सभी संदेश देखें'],
  Thai: ['ตารางเรือ', 'เลือกที่นั่ง', 'บันทึก', 'ดูข้อความทั้งหมด'],
  Bengali: ['সময়সূচী', 'আসন বেছে নিন'],
  Tamil: ['நேர அட்டவணை', 'இருக்கை தேர்வு'],
};

/** Those that the sheets are drawn with. */
export const ownDesigns = (): Design[] =>
  typefaces.map(({ files, name, script }) => ({ name, script, files }));

/** Those of `scripts/corpora.mjs` that can be had here. */
export const fetchedDesigns = (): Design[] =>
  Object.keys(DESIGNS).flatMap((name) => {
    const folder = sourceFolder(`design-${name}`);
    if (!folder) return [];
    const styles = readdirSync(folder).filter((style) => /^[3-8]00[A-Za-z]+$/.test(style));
    const files = styles.map((style): [number, string] => {
      const file = readdirSync(join(folder, style)).find((one) => one.endsWith('.ttf'))!;
      return [Number(style.slice(0, 3)), join(folder, style, file)];
    });
    return [{ name, script: scriptOf(name), files: Object.fromEntries(files) }];
  });

const SIZES_DP = [11, 13, 14, 16, 17.5, 20, 26];
const SIZES_EACH = 3;
const SCALES = [2, 3];
const LEFT_DP = 8;
const PADDING_DP = 4;
// No whole number, so that glyphs lie on the pixels at random.
const GAP_DP = 10.37;

export async function* tellDesign({ files, name, script }: Design): AsyncGenerator<Told> {
  for (const [weight, file] of Object.entries(files))
    for (const scale of SCALES) {
      const lines = layOut(fontkit.openSync(file) as fontkit.Font, TEXTS[script]!, Number(weight) / 100);
      const facts = await measure(lines, { file, scale });
      for (const { sizeDp, text, topDp } of lines) {
        const fact = facts.find(({ element }) => element.boundsPx.y === Math.round(topDp * scale));
        yield {
          design: name,
          script,
          text,
          sizeDp,
          weight: Number(weight),
          ...(fact && !fact.unseen && { told: { sizeDp: fact.textSizeDp, bold: fact.bold } }),
        };
      }
    }
}

interface Line {
  text: string;
  sizeDp: number;
  topDp: number;
  baselineDp: number;
  widthDp: number;
  heightDp: number;
}

function layOut(font: fontkit.Font, texts: readonly string[], turn: number): Line[] {
  let topDp = GAP_DP;
  return texts
    .flatMap((text) => Array.from({ length: SIZES_EACH }, () => text))
    .map((text, n) => {
      const sizeDp = SIZES_DP[(n + turn) % SIZES_DP.length]!;
      const em = sizeDp / font.unitsPerEm;
      const heightDp = (font.ascent - font.descent) * em + 2 * PADDING_DP;
      const widthDp = font.layout(text).advanceWidth * em + 2 * PADDING_DP;
      const line = {
        text,
        sizeDp,
        topDp,
        baselineDp: topDp + PADDING_DP + font.ascent * em,
        widthDp,
        heightDp,
      };
      topDp += heightDp + GAP_DP;
      return line;
    });
}

async function measure(
  lines: readonly Line[],
  { file, scale }: { file: string; scale: number },
): Promise<TextContrastFact[]> {
  const last = lines.at(-1)!;
  const widthPx = Math.ceil((Math.max(...lines.map(({ widthDp }) => widthDp)) + 2 * LEFT_DP) * scale);
  const heightPx = Math.ceil((last.topDp + last.heightDp + GAP_DP) * scale);
  const { familyName } = fontkit.openSync(file) as fontkit.Font;
  const written = lines.map(
    ({ baselineDp, sizeDp, text }) =>
      `<text x="${LEFT_DP + PADDING_DP}" y="${baselineDp}" font-size="${sizeDp}" font-family="${familyName}" fill="#444">${text}</text>`,
  );
  const { pixels } = await renderAsync(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}"><rect width="100%" height="100%" fill="#fefefe"/><g transform="scale(${scale})">${written.join('')}</g></svg>`,
    { font: { fontFiles: [file], loadSystemFonts: false, defaultFontFamily: familyName }, logLevel: 'off' },
  );
  const nodes = lines.map(({ heightDp, text, topDp, widthDp }) =>
    ui(
      [
        Math.round(LEFT_DP * scale),
        Math.round(topDp * scale),
        Math.round(widthDp * scale),
        Math.round(heightDp * scale),
      ],
      { className: 'android.widget.TextView', text },
    ),
  );
  const evidence = screenEvidence(ui([0, 0, widthPx, heightPx], {}, ...nodes), {
    pixels: { widthPx, heightPx, data: new Uint8Array(pixels) },
    densityDpi: 160 * scale,
  });
  return [...observeTextContrast.observe(evidence)];
}

export const isSizeHeld = ({ sizeDp, told }: Told): boolean =>
  !told || (sizeDp >= told.sizeDp[0] * 0.999 && sizeDp <= told.sizeDp[1] * 1.001);
/** Bold as "large scale" of WCAG 2.2 means it. */
export const isWeightWrong = ({ told, weight }: Told): boolean =>
  told !== undefined && told.bold !== 'unknown' && told.bold !== weight >= 700;
