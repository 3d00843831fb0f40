// The built command, called again and again in one process: most of a call's time is the loading of its modules.
const { runProgram } = await import('../../dist/bin/program.js');

process.on('message', async ({ args, cwd, env, id }) => {
  const said = { out: '', err: '' };
  const say = (of) => (text) => {
    said[of] += text;
  };
  const code = await runProgram(args, {
    out: say('out'),
    outPiece: async (text) => say('out')(text),
    err: say('err'),
    input: async () => new Uint8Array(),
    cwd,
    env,
    outIsTerminal: false,
    errIsTerminal: false,
    columns: 100,
    now: () => new Date(),
    signal: new AbortController().signal,
  });
  process.send({ id, code, ...said });
});
process.once('disconnect', () => process.exit());
