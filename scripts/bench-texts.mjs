// Speed of judging texts, as a ratio within one run: 100,000 strings in 10 languages through all checks of localization,
// against JSON.parse of the same strings; and picks of variants over the framework resource package.
import { existsSync } from 'node:fs';

const KEYS = 100_000;
const LOCALES = ['default', 'de', 'fr', 'pl', 'ar', 'ja', 'nb', 'es', 'ru', 'pt-BR'];
const WORDS = {
  default: 'the ferry leaves from harbour today with seats for all who booked before noon'.split(' '),
  de: 'die Fähre fährt heute vom Hafen mit Plätzen für alle die vor Mittag gebucht haben'.split(' '),
  fr: "le ferry part aujourd'hui du port avec des places pour tous ceux inscrits avant midi".split(' '),
  pl: 'prom odpływa dziś z portu z miejscami dla wszystkich którzy zarezerwowali przed południem'.split(' '),
  ar: 'تغادر العبارة اليوم من الميناء مع مقاعد لجميع من حجز قبل الظهر'.split(' '),
  ja: '船 は 今日 港 から 出ます 席 は 正午 前 に 予約 した 方'.split(' '),
  nb: 'ferjen går fra havnen i dag med plass til alle som bestilte før klokken tolv'.split(' '),
  es: 'el ferry sale hoy del puerto con plazas para todos los que reservaron antes de mediodía'.split(' '),
  ru: 'паром отходит сегодня из гавани с местами для всех кто забронировал до полудня'.split(' '),
  'pt-BR': 'a balsa parte hoje do porto com lugares para todos que reservaram antes do almoço'.split(' '),
};

function makeTexts() {
  let seed = 7;
  const random = (below) => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return Math.floor((seed / 2 ** 32) * below);
  };
  const rows = Array.from({ length: KEYS }, (_, i) => ({
    key: `screen_${i}`,
    length: 2 + random(7),
    placeholder: random(5) === 0,
    tag: random(40) === 0,
  }));
  return LOCALES.map((locale) => ({
    locale,
    texts: rows.map(({ key, length, placeholder, tag }) => {
      const words = Array.from({ length }, () => WORDS[locale][random(WORDS[locale].length)]);
      if (placeholder) words.push('%1$s', '%2$d');
      if (tag) words[0] = `<b>${words[0]}</b>`;
      return [key, words.join(' ')];
    }),
  }));
}

const timed = (run) => {
  const start = performance.now();
  const value = run();
  return [performance.now() - start, value];
};
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

async function benchTexts(rounds) {
  const { collectFindings } = await import('../dist/core/checklist/collect-findings.js');
  const { indexFacts } = await import('../dist/core/areas/check.js');
  const { checks } = await import('../dist/core/areas/checks.js');
  const { observeCatalogueFile } = await import(
    '../dist/core/areas/localization/texts/observe-catalogue-file.js'
  );
  const { emptyIntent } = await import('../dist/core/model/intent.js');
  const all = makeTexts();
  const json = JSON.stringify(
    Object.fromEntries(all.map(({ locale, texts }) => [locale, Object.fromEntries(texts)])),
  );
  const catalogues = all.map(({ locale, texts }) => ({
    format: 'android-strings',
    syntax: 'printf-java',
    problems: [],
    entries: texts.map(([key, text]) => ({ key, locale, kind: 'text', forms: [{ form: '', text }] })),
  }));
  const ofTexts = checks.filter(
    ({ area, reads }) =>
      area === 'localization' && reads.includes('catalogue-text') && !reads.includes('screen-text'),
  );
  const intent = { ...emptyIntent('bench'), locales: ['en', ...LOCALES.slice(1)] };
  const figures = Array.from({ length: rounds }, () => {
    const [parseMs] = timed(() => JSON.parse(json));
    const [observeMs, facts] = timed(() => {
      const observed = [];
      for (const [i, catalogue] of catalogues.entries()) {
        const evidence = {
          digest: String(i),
          platform: 'android',
          name: 'res',
          file: 'strings.xml',
          catalogue,
        };
        for (const fact of observeCatalogueFile.observe(evidence)) observed.push(fact);
      }
      return observed;
    });
    const [judgeMs, reports] = timed(() => collectFindings(ofTexts, indexFacts(facts), intent));
    return {
      parseMs,
      observeMs,
      judgeMs,
      findings: reports.reduce((sum, report) => sum + report.findings.length, 0),
    };
  });
  const of = (name) => median(figures.map((figure) => figure[name]));
  const ratio = median(figures.map(({ judgeMs, observeMs, parseMs }) => (observeMs + judgeMs) / parseMs));
  console.log(
    `\n${KEYS} strings × ${LOCALES.length} languages, ${ofTexts.length} checks, ${of('findings')} findings`,
  );
  console.log(`  JSON.parse of the same strings   ${of('parseMs').toFixed(0).padStart(6)} ms`);
  console.log(`  measuring each text              ${of('observeMs').toFixed(0).padStart(6)} ms`);
  console.log(`  judging them all                 ${of('judgeMs').toFixed(0).padStart(6)} ms`);
  console.log(`  ratio of both to JSON.parse      ${ratio.toFixed(2).padStart(6)}   (wanted: at most 5)`);
}

async function benchPicks(rounds) {
  const FRAMEWORK = '/usr/share/android-framework-res/framework-res.apk';
  if (!existsSync(FRAMEWORK)) return;
  const { withPackage } = await import('../dist/node/read-package.js');
  const { variantPicker } = await import('../dist/core/platform/android/select-variant.js');
  const { targetDevice } = await import('../dist/core/platform/android/target-device.js');
  await withPackage(
    FRAMEWORK,
    ({ android }) => {
      const resources = [...android.table.resources.values()];
      const devices = ['de-AT', 'en-IN', 'zh-HK', 'es-MX', 'fr', 'ar-EG'].flatMap((locale) =>
        [120, 320, 480].map((densityDpi) => targetDevice({ locale, densityDpi })),
      );
      const perSecond = Array.from({ length: rounds }, () => {
        const [ms] = timed(() => {
          for (const device of devices) {
            const pick = variantPicker(device);
            for (const resource of resources) pick(resource);
          }
        });
        return (1000 * devices.length * resources.length) / ms;
      });
      console.log(`\nvariants of ${resources.length} resources for ${devices.length} devices`);
      console.log(
        `  picks in a second              ${(median(perSecond) / 1e6).toFixed(1).padStart(8)} million (wanted: at least 1)`,
      );
    },
    { texts: false },
  );
}

export async function bench(rounds) {
  await benchTexts(Math.min(rounds, 3));
  await benchPicks(rounds);
}
