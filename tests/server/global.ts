import type { TestProject } from 'vitest/node';
import { makeTestCluster } from './cluster';

declare module 'vitest' {
  interface ProvidedContext {
    adminUrl: string;
  }
}

export default async function setup(project: TestProject) {
  const cluster = await makeTestCluster();
  project.provide('adminUrl', cluster.url('postgres'));
  return cluster.stop;
}
