/** Serves the captures of dossiers to the page: `/captures/index.json`, and the files beside each capture. */
import { createReadStream } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { basename, join } from 'node:path';
import type { Plugin } from 'vite';
import { addressOf } from '../parts/address-of.ts';

/** One capture as the index lists it. */
export interface ServedCapture {
  /** `<number of the dossier>/<folder of the capture>/<file>`. */
  path: string;
  capture: unknown;
}

export function serveCaptures({ dossiers, token }: { dossiers: string[]; token?: string }): Plugin {
  const answer = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const refuse = (status: number, why: string) => {
      response.statusCode = status;
      response.end(why);
    };
    const url = addressOf(request.url);
    if (!url) return refuse(400, 'not an address');
    if (token && url.searchParams.get('token') !== token) return refuse(403, 'the token is missing or wrong');
    if (url.pathname === '/index.json') {
      response.setHeader('content-type', 'application/json');
      response.end(JSON.stringify(await listCaptures(dossiers)));
      return;
    }
    const [, dossier, folder, file, ...rest] = url.pathname.split('/').map(decodeURIComponent);
    const root = dossiers[Number(dossier)];
    const inside = [folder, file].every((part) => part && part === basename(part) && !part.startsWith('.'));
    if (!root || !inside || rest.length > 0) return refuse(404, 'no such capture');
    createReadStream(join(root, 'captures', folder!, file!))
      .on('error', () => refuse(404, 'no such capture'))
      .pipe(response);
  };
  const serve = (server: { middlewares: { use(path: string, handler: typeof answer): unknown } }) => {
    server.middlewares.use('/captures', answer);
  };
  return { name: 'captures', configureServer: serve, configurePreviewServer: serve };
}

async function listCaptures(dossiers: string[]): Promise<ServedCapture[]> {
  const all = await Promise.all(
    dossiers.map(async (dossier, number) => {
      const folders = await readdir(join(dossier, 'captures')).catch(() => []);
      return Promise.all(folders.map((folder) => describe(dossier, number, folder)));
    }),
  );
  return all.flat(2);
}

async function describe(dossier: string, number: number, folder: string): Promise<ServedCapture[]> {
  const inside = await readdir(join(dossier, 'captures', folder));
  const file = inside.find((name) => name.endsWith('.json'));
  if (!file) return [];
  const capture = JSON.parse(await readFile(join(dossier, 'captures', folder, file), 'utf8'));
  // an inline tree is fetched with the capture itself
  return [{ path: `${number}/${folder}/${file}`, capture: { ...capture, tree: undefined } }];
}
