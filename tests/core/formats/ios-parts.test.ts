/**
 * Code inside an iOS app, on frameworks that vendors built and signed, beside openssl and llvm's tools; and what must not
 * hold in them.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename, join, relative } from 'node:path';
import { sourceFolder } from '../../../scripts/corpora.mjs';
import { readMachO } from '../../../src/core/formats/apple/mach-o.ts';
import { readMachSymbols } from '../../../src/core/formats/apple/mach-symbols.ts';
import { parsePlist } from '../../../src/core/formats/apple/plist.ts';
import { readPackage } from '../../../src/core/formats/package.ts';
import type { AppPackage, IosBundle } from '../../../src/core/model/app-package.ts';
import { bytesSource } from '../../../src/core/model/ports.ts';
import { nodePorts } from '../../../src/node/ports.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { demoIpa, describeWith, scratchFolder, tools } from '../../support/paths.ts';
import { type WrittenEntry, writeZip } from '../../support/zip-writer.ts';

const scratch = scratchFolder();
const corpora = ['signed-framework', 'signed-frameworks', 'assets-2017', 'assets-2023', 'assets-2024'].map(
  (name) => sourceFolder(name),
);
const describeOnCorpora = corpora.includes(undefined)
  ? (describe.skip as unknown as typeof describeWith)
  : describeWith;

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .map((name) => join(folder, name))
    .filter((path) => statSync(path).isFile());

/** Frameworks for devices, each once. */
function findFrameworks(): Map<string, string> {
  const found = new Map<string, string>();
  for (const folder of corpora)
    for (const path of filesIn(folder!)) {
      const match = /^(.*\/([^/]+)\.framework)\/Info\.plist$/.exec(path);
      if (match && !/simulator|catalyst|dSYM|\.bundle\//.test(path)) found.set(match[2]!, match[1]!);
    }
  return found;
}

const codeOf = (folder: string) => join(folder, basename(folder, '.framework'));
const run = (tool: string, ...args: string[]) =>
  execFileSync(tool, args, { encoding: 'utf8', maxBuffer: 2 ** 26, stdio: ['ignore', 'pipe', 'ignore'] });

describeOnCorpora(
  'llvmNm',
  'llvmObjdump',
  'openssl',
)('frameworks of vendors, inside the demo app', () => {
  const frameworks = corpora.includes(undefined) ? new Map<string, string>() : findFrameworks();
  const names = [...frameworks.keys()];
  let entries: WrittenEntry[];
  let read: AppPackage;
  const partOf = (name: string, { ios }: AppPackage = read): IosBundle =>
    ios!.parts.find(({ path }) => path === `Frameworks/${name}.framework`)!;

  /** The demo with all of them inside; an entry for which `change` gives nothing is left out. */
  async function pack(change: (entry: WrittenEntry) => WrittenEntry[]): Promise<AppPackage> {
    const zip = writeZip(entries.flatMap(change));
    const result = await readPackage('x.ipa', bytesSource(zip), 'digest', nodePorts);
    if (!result.ok) throw new Error(result.problem.found);
    return result.value.app;
  }

  beforeAll(async () => {
    entries = [];
    await withPackage(demoIpa, async ({ zip }) => {
      for (const name of zip.entries.keys()) entries.push({ name, data: await zip.read(name), stored: true });
    });
    for (const [name, folder] of frameworks)
      for (const file of filesIn(folder))
        entries.push({
          name: `Payload/Kelpline.app/Frameworks/${name}.framework/${relative(folder, file)}`,
          data: readFileSync(file),
          stored: true,
        });
    read = await pack((entry) => [entry]);
  });

  test('there are enough of them, signed and not', () => {
    expect(names.length).toBeGreaterThan(6);
    const outcomes = names.map((name) => partOf(name).signature.outcome);
    expect(outcomes.filter((outcome) => outcome === 'verified').length).toBeGreaterThan(4);
    expect(outcomes).toContain('broken');
  });

  test.each(names)('%s: imports as llvm-nm prints them', (name) => {
    const file = codeOf(frameworks.get(name)!);
    const slices = readMachO(readFileSync(file), name);
    for (const { architecture, imports } of slices) {
      const printed = run(
        tools.llvmNm,
        '--undefined-only',
        '--just-symbol-name',
        `--arch=${architecture}`,
        file,
      );
      const symbols = printed.split('\n').filter((line) => /^\S+$/.test(line) && !line.endsWith(':'));
      expect([...imports].sort()).toEqual([...new Set(symbols)].sort());
    }
  });

  test.each(names)('%s: names of functions as llvm-nm prints them', (name) => {
    const file = codeOf(frameworks.get(name)!);
    for (const { architecture, at } of readMachSymbols(readFileSync(file), name)) {
      const printed = run(tools.llvmNm, '--defined-only', '--numeric-sort', `--arch=${architecture}`, file);
      const namesAt = new Map<number, string[]>();
      for (const [, address, symbol] of printed.matchAll(/^([0-9a-f]+) [tT] (.+)$/gm)) {
        const place = Number.parseInt(address!, 16);
        namesAt.set(place, [...(namesAt.get(place) ?? []), symbol!.replace(/^_/, '')]);
      }
      const places = [...namesAt.keys()];
      // frameworks begin at 0
      for (const [i, place] of places.entries()) {
        expect(namesAt.get(place)).toContain(at(place));
        const next = places[i + 1];
        if (next) expect(namesAt.get(place)).toContain(at(Math.floor((place + next) / 2)));
      }
    }
  });

  test.each(names)('%s: libraries as llvm-objdump prints them', (name) => {
    const file = codeOf(frameworks.get(name)!);
    for (const { architecture, libraries } of readMachO(readFileSync(file), name)) {
      const printed = run(tools.llvmObjdump, '--macho', `--arch=${architecture}`, '--dylibs-used', file);
      const used = [...printed.matchAll(/^\t(\S.*?) \(compatibility/gm)].map((match) => match[1]);
      expect(used.filter((path) => !path!.includes(`/${name}.framework/`))).toEqual(
        libraries.filter((path) => !path.includes(`/${name}.framework/`)),
      );
    }
  });

  test.each(names)('%s: signed by whom openssl says, up to the same root', (name) => {
    const file = codeOf(frameworks.get(name)!);
    const { signature, team } = partOf(name);
    const found = superBlob(file);
    const cms = found?.get(0x10000);
    if (!cms || cms.length <= 8) {
      const problem = signature.problems.find(({ place }) => place?.includes('(arm64)'));
      expect(problem!.code).toBe(found ? 'signature.ad-hoc' : 'signature.none');
      return;
    }
    const [cmsFile, content, certificates] = ['cms', 'directory', 'certificates'].map((part) =>
      join(scratch, `${name}.${part}`),
    ) as [string, string, string];
    writeFileSync(cmsFile, cms.subarray(8));
    writeFileSync(content, found!.get(0)!);
    // the signature itself, without a look at the certificates
    run(
      tools.openssl,
      ...['cms', '-verify', '-noverify', '-binary', '-inform', 'DER', '-in', cmsFile],
      ...['-content', content, '-out', '/dev/null', '-signer', certificates],
    );
    const leaf = run(tools.openssl, 'x509', '-in', certificates, '-noout', '-fingerprint', '-sha256');
    expect(signature.outcome).toBe('verified');
    expect(signature.signers[0]!.certificates[0]!.sha256).toBe(
      leaf.replace(/^.*=/, '').replaceAll(':', '').trim().toLowerCase(),
    );
    expect(team).toBe(
      /OU = (\w+)/.exec(run(tools.openssl, 'x509', '-in', certificates, '-noout', '-subject'))![1],
    );
    // all certificates that came along, the last of its chain as the one that is trusted
    const all = join(scratch, `${name}.all`);
    writeFileSync(all, run(tools.openssl, 'pkcs7', '-inform', 'DER', '-in', cmsFile, '-print_certs'));
    const verified = run(
      tools.openssl,
      ...['verify', '-no_check_time', '-purpose', 'any', '-ignore_critical', '-show_chain'],
      ...['-CAfile', all, certificates],
    );
    expect(verified).toMatch(/: OK/);
    expect(verified.trim().split('\n').at(-1)).toMatch(/CN = Apple Root CA/);
    expect(signature.anchor).toMatchObject({
      is: 'apple',
      subject: expect.stringMatching(/^CN=Apple Root CA,/),
    });
  });

  test('vendors who give reasons give them for what their code calls, and for nothing else', () => {
    const declared = names.flatMap((name) => {
      const manifest = join(frameworks.get(name)!, 'PrivacyInfo.xcprivacy');
      if (!existsSync(manifest)) return [];
      const categories = [...readFileSync(manifest, 'utf8').matchAll(/APICategory(\w+)/g)];
      return [[name, categories.map(([, category]) => category).sort()] as const];
    });
    expect(declared.length).toBeGreaterThan(6);
    for (const [name, categories] of declared)
      expect([
        name,
        partOf(name)
          .reasons.map(({ category }) => category)
          .sort(),
      ]).toEqual([name, categories]);
    const given = declared.flatMap(([name]) => partOf(name).reasons.flatMap((reason) => reason.given));
    expect(new Set(given)).toEqual(new Set(['CA92.1', '35F9.1']));
  });

  test('a byte of any one of them changed, left out or added: that one no longer holds, and the others do', async () => {
    const signed = names.filter((name) => partOf(name).signature.outcome === 'verified');
    const folder = (name: string) => `Payload/Kelpline.app/Frameworks/${name}.framework/`;
    const sealedFile = (name: string) =>
      entries.find(
        (entry) =>
          entry.name.startsWith(folder(name)) &&
          !/(_CodeSignature\/.*|Info\.plist)$/.test(entry.name) &&
          entry.name !== folder(name) + name,
      )!.name;
    const [first, second, third, fourth] = signed as [string, string, string, string];
    const [changedFile, lostFile] = [sealedFile(first), sealedFile(second)];
    const changed = await pack((entry) => {
      if (entry.name === changedFile)
        return [{ ...entry, data: Buffer.concat([entry.data, Buffer.from(' ')]) }];
      if (entry.name === lostFile) return [];
      if (entry.name === folder(third) + third) {
        const data = Buffer.from(entry.data);
        data[data.indexOf('__TEXT')]! ^= 1;
        return [{ ...entry, data }];
      }
      return entry.name === `${folder(fourth)}Info.plist`
        ? [entry, { name: `${folder(fourth)}added.js`, data: Buffer.from('1') }]
        : [entry];
    });
    const said = (name: string) => partOf(name, changed).signature.problems.map(({ found }) => found);
    expect(said(first)).toEqual(['a file that was changed after signing']);
    expect(said(second)).toEqual(['a signed file that is not there']);
    expect(said(third)).toEqual([expect.stringMatching(/^code that was changed after signing \(page 0/)]);
    expect(said(fourth)).toEqual(['a file that was added after signing']);
    for (const name of signed.slice(4)) expect(said(name)).toEqual([]);
  });

  /** The blobs of its signature, at the place that llvm-objdump prints; undefined where it has none. */
  function superBlob(file: string): Map<number, Buffer> | undefined {
    const printed = run(tools.llvmObjdump, '--macho', '--arch=arm64', '--private-headers', file);
    const at = /LC_CODE_SIGNATURE\n\s+cmdsize \d+\n\s+dataoff (\d+)/.exec(printed)?.[1];
    if (at === undefined) return undefined;
    const slice = readMachO(readFileSync(file), file).find(({ architecture }) => architecture === 'arm64')!;
    const whole = Buffer.from(slice.bytes).subarray(Number(at));
    const blobs = new Map<number, Buffer>();
    for (let i = 0; i < whole.readUInt32BE(8); i++) {
      const from = whole.readUInt32BE(16 + 8 * i);
      blobs.set(whole.readUInt32BE(12 + 8 * i), whole.subarray(from, from + whole.readUInt32BE(from + 4)));
    }
    return blobs;
  }
});

describeOnCorpora('plistutil')('property lists of vendors, beside plistutil', () => {
  const files = corpora.includes(undefined)
    ? []
    : corpora.flatMap((folder) =>
        filesIn(folder!).filter((path) => /(\.plist|\.xcprivacy|CodeResources)$/.test(path)),
      );

  test('each form read straight, and turned into the other by plistutil first, gives the same', () => {
    expect(files.length).toBeGreaterThan(60);
    const isBinary = (bytes: Uint8Array) => Buffer.from(bytes.subarray(0, 6)).toString() === 'bplist';
    expect(files.some((path) => isBinary(readFileSync(path)))).toBe(true);
    for (const path of files) {
      const bytes = readFileSync(path);
      const other = isBinary(bytes) ? 'xml' : 'bin';
      const turned = execFileSync(tools.plistutil, ['-i', path, '-o', '-', '-f', other], {
        maxBuffer: 2 ** 26,
      });
      expect([path, isBinary(turned)]).toEqual([path, other === 'bin']);
      expect(parsePlist(turned, path)).toEqual(parsePlist(bytes, path));
    }
  });
});
