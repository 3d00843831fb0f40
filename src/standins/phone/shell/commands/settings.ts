import { type Namespace, namespaces } from '../../os/settings-table.ts';
import { lines, type ShellCommand, splitOptions } from '../shell-command.ts';

/** `settings get|put|delete|list NAMESPACE [KEY [VALUE]]` */
export const settings: ShellCommand = ({ args, err, os, out }) => {
  const { rest } = splitOptions(args, ['--user']);
  const [verb = '', namespace = '', key, ...values] = rest;
  const complain = (why: string) => {
    err(`${why}\n`);
    return 255;
  };
  if (!namespaces.includes(namespace as Namespace)) return complain('Invalid arguments');
  const of = namespace as Namespace;
  if (verb === 'list') {
    out(lines(...os.settings.list(of).map(([name, value]) => `${name}=${value}`)));
    return 0;
  }
  if (key === undefined) return complain('Bad arguments');
  if (verb === 'get') out(`${os.settings.get(of, key) ?? 'null'}\n`);
  else if (verb === 'delete') out(`Deleted ${os.settings.delete(of, key) ? 1 : 0} rows\n`);
  else if (verb === 'put' && values[0] !== undefined) os.settings.put(of, key, values[0]);
  else return complain('Bad arguments');
  return 0;
};
