/** A push message for people: what is wrong with it, the worst first, and how it reads in each language. */
import type { PayloadProblem, PushPayload } from '../model/push-payload.ts';
import type { PayloadPreview, PreviewTrouble } from '../platform/push/preview-payload.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

interface PayloadViewed {
  file: string;
  payload: PushPayload;
  headers: Readonly<Record<string, string>>;
  previews: readonly PayloadPreview[];
}

const FORMS = { apple: 'iOS', android: 'Android' };

export function payloadView(
  { file, headers, payload, previews }: PayloadViewed,
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string {
  const { form, limitBytes, problems, silent, sizeBytes } = payload;
  const worst = [...problems].sort((a, b) => Number(b.level === 'error') - Number(a.level === 'error'));
  const sent = form === 'apple' ? Object.entries(headers).map((pair) => pair.join(': ')) : [];
  return [
    `${style.strong(file)}  for ${FORMS[form]}, ${silent ? 'silent, ' : ''}${sizeBytes} of ${limitBytes} bytes`,
    ...(sent.length > 0 ? wrap(style.faint(sent.join('   ')), widthColumns, 0, 2) : []),
    '',
    ...(worst.length === 0
      ? [`${style.outcome('passed', '■')} Nothing that a gateway refuses or reads otherwise than meant`]
      : []),
    ...worst.flatMap((problem) => wrap(formatProblem(problem, style), widthColumns, 0, 4)),
    ...(previews.length > 0
      ? [
          '',
          style.strong('Reads'),
          ...readsAlike(previews).flatMap((group) => previewLines(group, style, widthColumns)),
        ]
      : []),
  ]
    .join('\n')
    .concat('\n');
}

function formatProblem({ at, code, expected, found, level }: PayloadProblem, style: TextStyle): string {
  const mark = level === 'error' ? style.outcome('failed', '▲') : style.outcome('cantTell', '◐');
  return `${mark} ${at || 'the message'}: ${found}; expected ${expected} ${style.faint(`[${code}]`)}`;
}

/** Languages in which it reads the same stand together. */
function readsAlike(previews: readonly PayloadPreview[]): { locales: string[]; of: PayloadPreview }[] {
  const groups = new Map<string, { locales: string[]; of: PayloadPreview }>();
  for (const { locale, ...rest } of previews) {
    const key = JSON.stringify(rest);
    const group = groups.get(key);
    if (group) group.locales.push(locale);
    else groups.set(key, { locales: [locale], of: { locale, ...rest } });
  }
  return [...groups.values()];
}

function previewLines(
  { locales, of: { body, subtitle, title, trouble } }: { locales: string[]; of: PayloadPreview },
  style: TextStyle,
  widthColumns: number,
): string[] {
  const name = locales.map((locale) => (locale === 'default' ? 'source' : locale)).join(', ');
  const width = Math.max(8, name.length + 2);
  const lines = [title && style.strong(title), subtitle, body].filter(
    (text) => text !== undefined && text !== '',
  );
  return [
    ...lines.flatMap((text, i) =>
      wrap(`${(i === 0 ? name : '').padEnd(width)}${text}`, widthColumns, 2, 2 + width),
    ),
    ...trouble.flatMap((one) =>
      wrap(`${' '.repeat(width)}${formatTrouble(one, style)}`, widthColumns, 2, 4 + width),
    ),
  ];
}

function formatTrouble(trouble: PreviewTrouble, style: TextStyle): string {
  switch (trouble.kind) {
    case 'no-key':
      return `${style.outcome('failed', '▲')} ${trouble.part}: the app has no text ${trouble.key}, so the key itself is shown`;
    case 'arguments':
      return `${style.outcome('failed', '▲')} ${trouble.part}: ${trouble.key} takes ${trouble.needed} arguments, the message gives ${trouble.given}`;
    case 'cut':
      return `${style.outcome('cantTell', '◐')} ${trouble.part}: about ${trouble.linesNeeded} lines, of which ${trouble.linesShown} ${trouble.linesShown === 1 ? 'is' : 'are'} shown until it is unfolded`;
    default:
      return trouble satisfies never;
  }
}
