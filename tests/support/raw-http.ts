import { connect } from 'node:net';

/** What a server on this machine answers to heads that no client would write; 0 where it only hangs up. */
export const statusOf = (head: string, port: number): Promise<number> =>
  new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(`${head}\r\nConnection: close\r\n\r\n`));
    let answered = '';
    socket.on('data', (piece) => {
      answered += piece;
    });
    socket.on('error', () => {});
    socket.on('close', () => resolve(Number(/^HTTP\/1\.1 (\d+)/.exec(answered)?.[1] ?? 0)));
  });
