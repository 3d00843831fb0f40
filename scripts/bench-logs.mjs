// Logs and mapping files: how long an index of a mapping file takes, and a thousand frames after it; a log beside splitting it
// into lines. All in one run, so that only ratios count.

import { LogReader } from '../dist/core/formats/android/log/read-log.js';
import { MappingIndexer } from '../dist/core/formats/android/mapping/index-mapping.js';
import { readMembers } from '../dist/core/formats/android/mapping/read-members.js';
import { retraceFrames } from '../dist/core/formats/android/mapping/retrace.js';

const MAPPING_BYTES = 100 * 2 ** 20;
const FRAMES = 1000;
/** Of a crash report's frames most are of the same classes. */
const CLASSES_OF_FRAMES = 50;
const LOG_LINES = 1_000_000;
const PIECE_BYTES = 2 ** 20;

export function benchLogs() {
  const mapping = mappingFile();
  const [indexMs, index] = timed(() => {
    const indexer = new MappingIndexer();
    for (let at = 0; at < mapping.length; at += PIECE_BYTES)
      indexer.push(mapping.subarray(at, at + PIECE_BYTES));
    return indexer.finish();
  });
  const names = [...index.classes.keys()];
  const read = new Map();
  const lookup = {
    members: (renamed) => {
      if (!read.has(renamed)) {
        const { fromByte, original, toByte } = index.classes.get(renamed);
        read.set(renamed, readMembers(original, mapping.toString('utf8', fromByte, toByte)));
      }
      return read.get(renamed);
    },
    renamed: () => undefined,
  };
  const step = Math.floor(names.length / CLASSES_OF_FRAMES);
  const [framesMs] = timed(() => {
    for (let i = 0; i < FRAMES; i++)
      retraceFrames(
        [{ className: names[(i % CLASSES_OF_FRAMES) * step], method: `m${i % 20}`, file: '', line: 5 }],
        '',
        lookup,
      );
  });
  const log = logText();
  const [splitMs, lines] = timed(() => log.split('\n'));
  const [logMs] = timed(() => {
    const reader = new LogReader('example.kelpline');
    for (const line of lines) reader.push(line);
    return reader.finish();
  });
  console.log(`mapping file of 100 MB, ${index.classes.size} classes: indexed in ${Math.round(indexMs)} ms`);
  console.log(
    `  ${FRAMES} frames after it   ${((100 * framesMs) / indexMs).toFixed(1)} % of that (wanted: at most 2 %)`,
  );
  console.log(
    `log of ${LOG_LINES} lines          ${(logMs / splitMs).toFixed(1)} × splitting it (wanted: at most 3 ×)`,
  );
}

function timed(work) {
  const began = performance.now();
  const made = work();
  return [performance.now() - began, made];
}

function mappingFile() {
  const parts = [];
  let bytes = 0;
  for (let i = 0; bytes < MAPPING_BYTES; i++) {
    const lines = [
      `com.example.feature${i % 977}.Class${i} -> a.b${i}:\n# {"id":"sourceFile","fileName":"Class.kt"}\n`,
    ];
    for (let j = 0; j < 20; j++)
      lines.push(`    1:9:void method${j}(int,java.lang.String):${j * 20}:${j * 20 + 8} -> m${j}\n`);
    parts.push(lines.join(''));
    bytes += parts.at(-1).length;
  }
  return Buffer.from(parts.join(''));
}

const logText = () =>
  Array.from(
    { length: LOG_LINES },
    (_, i) =>
      `11-30 12:00:0${i % 10}.123  ${1000 + (i % 50)}  ${1000 + (i % 50)} D Tag${i % 200}: message ${i} with a few words`,
  ).join('\n');
