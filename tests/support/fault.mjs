// Loaded before the command: the FAULT_AT-th write, rename, copy or flush of a file goes wrong, by an error or by the end of the
// process; at its end it says into FAULT_COUNT how many there were.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';

const { FAULT_AT, FAULT_COUNT, FAULT_HOW } = process.env;
let count = 0;

function meet(path) {
  count += 1;
  if (count !== Number(FAULT_AT)) return;
  if (FAULT_HOW === 'end') process.kill(process.pid, 'SIGKILL');
  throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC', path: String(path) });
}

for (const name of ['writeFile', 'rename', 'copyFile', 'mkdir']) {
  const real = fs.promises[name];
  fs.promises[name] = async (path, ...more) => {
    meet(path);
    return real(path, ...more);
  };
}
const open = fs.promises.open;
fs.promises.open = async (path, ...more) => {
  const handle = await open(path, ...more);
  const sync = handle.sync.bind(handle);
  handle.sync = async () => {
    meet(path);
    return sync();
  };
  return handle;
};
syncBuiltinESMExports();
process.on('exit', () => {
  if (FAULT_COUNT) fs.writeFileSync(FAULT_COUNT, String(count));
});
