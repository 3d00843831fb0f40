import type { Fact } from 'fenlok';
import type { Project } from './model/rehearsal.ts';

export interface ServedProject extends Project {
  /** Of the app's package, what ad networks look for. */
  packageFacts: Fact[];
}

export async function fetchProject(): Promise<ServedProject> {
  const token = new URLSearchParams(location.search).get('token') ?? '';
  const response = await fetch(`project.json?token=${encodeURIComponent(token)}`);
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as ServedProject;
}
