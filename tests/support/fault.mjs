// Loaded before the command: the FAULT_AT-th write, rename, copy or flush of a file goes wrong, by an error or by the end of the
// process; what is written or copied then is half there. At its end it says into FAULT_COUNT how many there were.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';

const { FAULT_AT, FAULT_COUNT, FAULT_HOW } = process.env;
let count = 0;

const isHit = () => ++count === Number(FAULT_AT);

function fail(path) {
  if (FAULT_HOW === 'end') process.kill(process.pid, 'SIGKILL');
  throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC', path: String(path) });
}

const { copyFile, mkdir, open, rename, truncate, writeFile } = fs.promises;
fs.promises.writeFile = async (path, data, ...more) => {
  if (!isHit()) return writeFile(path, data, ...more);
  await writeFile(path, data.slice(0, data.length / 2), ...more);
  return fail(path);
};
fs.promises.copyFile = async (from, to, ...more) => {
  const isFailing = isHit();
  await copyFile(from, to, ...more);
  if (!isFailing) return;
  await truncate(to, 100);
  fail(to);
};
fs.promises.rename = async (from, to) => (isHit() ? fail(to) : rename(from, to));
fs.promises.mkdir = async (path, ...more) => (isHit() ? fail(path) : mkdir(path, ...more));
fs.promises.open = async (path, ...more) => {
  const handle = await open(path, ...more);
  const sync = handle.sync.bind(handle);
  handle.sync = async () => (isHit() ? fail(path) : sync());
  return handle;
};
syncBuiltinESMExports();
process.on('exit', () => {
  if (FAULT_COUNT) fs.writeFileSync(FAULT_COUNT, String(count));
});
