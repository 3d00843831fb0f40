/** Serves to the page what is rehearsed, as `/project.json`: the intent file and what belongs to it, read and checked before. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Plugin } from 'vite';

export function serveProject({ project, token }: { project: string; token?: string }): Plugin {
  const answer = (request: IncomingMessage, response: ServerResponse): void => {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    if (token && url.searchParams.get('token') !== token) {
      response.statusCode = 403;
      response.end('the token is missing or wrong');
      return;
    }
    response.setHeader('content-type', 'application/json');
    response.end(project);
  };
  const serve = (server: { middlewares: { use(path: string, handler: typeof answer): unknown } }) => {
    server.middlewares.use('/project.json', answer);
  };
  return { name: 'project', configureServer: serve, configurePreviewServer: serve };
}
