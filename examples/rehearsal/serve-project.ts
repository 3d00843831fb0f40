/** Serves to the page what is rehearsed, as `/project.json`: the intent file and what belongs to it, read and checked before. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Plugin } from 'vite';
import { addressOf } from '../parts/address-of.ts';

export function serveProject({ project, token }: { project: string; token?: string }): Plugin {
  const answer = (request: IncomingMessage, response: ServerResponse) => {
    const refuse = (status: number, why: string) => {
      response.statusCode = status;
      response.end(why);
    };
    const url = addressOf(request.url);
    if (!url) return refuse(400, 'not an address');
    if (token && url.searchParams.get('token') !== token) return refuse(403, 'the token is missing or wrong');
    response.setHeader('content-type', 'application/json');
    response.end(project);
  };
  const serve = (server: { middlewares: { use(path: string, handler: typeof answer): unknown } }) => {
    server.middlewares.use('/project.json', answer);
  };
  return { name: 'project', configureServer: serve, configurePreviewServer: serve };
}
