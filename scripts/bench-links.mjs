// Link decisions on parsed URLs against a list of plain regular expressions that say the same, within one run; and 10,000
// messages through the push gateway on one connection, with the memory that they take.
import { connect } from 'node:http2';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const VIEW = 'android.intent.action.VIEW';
const CATEGORIES = ['android.intent.category.DEFAULT', 'android.intent.category.BROWSABLE'];

const HOSTS = ['kelpline.example', 'www.kelpline.example', 'm.kelpline.example'];
const filter = (i) => ({
  component: `example.app.Screen${i}`,
  componentType: 'activity',
  position: 1,
  exported: true,
  enabled: true,
  filter: {
    actions: [VIEW],
    categories: CATEGORIES,
    schemes: ['https', 'http'],
    authorities: HOSTS.map((host) => ({ host })),
    paths: [
      i % 3 === 0
        ? `pathPrefix=/screen${i}/`
        : i % 3 === 1
          ? `path=/screen${i}`
          : `pathPattern=/screen${i}/.*`,
    ],
    specificParts: [],
    relativeGroups: [],
    mimeTypes: [],
    autoVerify: true,
  },
});
const host = `(?:${HOSTS.map((name) => name.replaceAll('.', '\\.')).join('|')})`;
const expression = (i) =>
  new RegExp(
    `^https?://${host}(?::\\d+)?/screen${i}${i % 3 === 1 ? '' : '/[^?#]*'}(?:\\?[^#]*)?(?:#.*)?$`,
    'i',
  );

/** The same screens as a site's file has them. */
const siteFile = (screens) => ({
  host: 'kelpline.example',
  kind: 'apple-app-site-association',
  sizeBytes: 0,
  problems: [],
  appLinks: {
    details: [
      {
        appIDs: ['TEAM.example.app'],
        components: Array.from({ length: screens }, (_, i) => ({
          '/': i % 3 === 1 ? `/screen${i}` : `/screen${i}/*`,
        })),
      },
    ],
  },
});

export async function benchLinks(rounds) {
  const { linkMatcher, parseLinkUri } = await import('../dist/core/index.js');
  const compare = (name, screens, hosts, matcher, isTaken) => {
    const expressions = Array.from({ length: screens }, (_, i) => expression(i));
    const urls = Array.from({ length: 2000 }, (_, n) => {
      const i = n % (screens + Math.ceil(screens / 3));
      const tail = i % 3 === 1 ? '' : `/${n}?from=mail`;
      return `https://${n % 7 === 0 ? 'other.example' : hosts[n % hosts.length]}/screen${i}${tail}`;
    });
    const uris = urls.map(parseLinkUri);
    const own = () => uris.reduce((sum, uri) => sum + (isTaken(matcher.opens(uri)) ? 1 : 0), 0);
    const plain = () =>
      urls.reduce((sum, url) => sum + (expressions.some((one) => one.test(url)) ? 1 : 0), 0);
    if (own() !== plain()) throw new Error(`${own()} links taken, and ${plain()} by the expressions`);
    const time = (run) => {
      const start = performance.now();
      for (let n = 0; n < 20; n++) run();
      return performance.now() - start;
    };
    const ratios = [];
    for (let round = 0; round < rounds; round++) ratios.push(time(own) / time(plain));
    console.log(`  ${name.padEnd(32)} ${median(ratios).toFixed(2).padStart(6)}   (wanted: at most 0.50)`);
  };
  console.log('\ndecisions on 2,000 parsed links, as a ratio to as many regular expressions');
  for (const screens of [8, 60]) {
    const filters = Array.from({ length: screens }, (_, i) => filter(i));
    const android = { filters, targetSdk: 35, certificates: [], deviceSdk: 35 };
    const matcher = linkMatcher({ appId: 'example.app', android }, []);
    compare(
      `Android, ${screens} filters`,
      screens,
      HOSTS,
      matcher,
      ({ components }) => components.length > 0,
    );
    const ios = { fullAppId: 'TEAM.example.app', domains: ['applinks:kelpline.example'], schemes: [] };
    const apple = linkMatcher({ appId: 'example.app', ios }, [siteFile(screens)]);
    compare(`iOS, ${screens} rules`, screens, HOSTS.slice(0, 1), apple, ({ opens }) => opens === 'app');
  }
}

const MESSAGES = 10_000;
const WINDOW = 100;

export async function benchGateway() {
  const { DeviceLink, serveGateway } = await import('../dist/standins/index.js');
  const { pushSender } = await import('../dist/node/index.js');
  const { address, close } = await serveGateway();
  let arrived = 0;
  const link = new DeviceLink({ ...address, deviceId: 'phone', onMessage: () => (arrived += 1) });
  await link.goOnline();
  const token = await link.register('example.app', 'production');
  const sender = await pushSender(address);
  const push = {
    environment: 'production',
    token,
    headers: { 'apns-topic': 'example.app', 'apns-push-type': 'alert' },
    body: new TextEncoder().encode('{"aps":{"alert":"The 17:40 leaves at 17:55"}}'),
  };
  const marks = [];
  const start = performance.now();
  for (let sent = 0; sent < MESSAGES; sent += WINDOW) {
    await Promise.all(Array.from({ length: WINDOW }, () => sender.send(push)));
    if (sent % 2500 === 0) {
      globalThis.gc?.();
      marks.push(process.memoryUsage().heapUsed / 2 ** 20);
    }
  }
  const ms = performance.now() - start;
  while (arrived < MESSAGES) await new Promise((resolve) => setImmediate(resolve));
  // the same number of requests to a server that answers nothing but yes, on one connection
  const bareMs = await bareRequests();
  sender.close();
  link.goOffline();
  await close();
  console.log(
    `\n${MESSAGES} messages through the push gateway on one connection, sender and gateway in one process`,
  );
  console.log(`  arrived                          ${String(arrived).padStart(6)}`);
  console.log(`  each                             ${(ms / MESSAGES).toFixed(2).padStart(6)} ms`);
  console.log(`  ratio to bare HTTP/2 requests    ${(ms / bareMs).toFixed(2).padStart(6)}`);
  console.log(`  heap, every 2,500                ${marks.map((mib) => mib.toFixed(0)).join(', ')} MiB`);
}

async function bareRequests() {
  const { createServer } = await import('node:http2');
  const server = createServer();
  server.on('stream', (stream) => {
    stream.resume();
    stream.on('end', () => {
      stream.respond({ ':status': 200 });
      stream.end();
    });
  });
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
  const session = connect(`http://127.0.0.1:${server.address().port}`);
  const one = () =>
    new Promise((resolve) => {
      const stream = session.request({ ':method': 'POST', ':path': '/' });
      stream.resume();
      stream.on('close', resolve);
      stream.end('{"aps":{"alert":"The 17:40 leaves at 17:55"}}');
    });
  const start = performance.now();
  for (let sent = 0; sent < MESSAGES; sent += WINDOW) await Promise.all(Array.from({ length: WINDOW }, one));
  const ms = performance.now() - start;
  session.destroy();
  server.close();
  return ms;
}
