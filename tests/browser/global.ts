import { makeTestCluster } from '../server/cluster';

/** One PostgreSQL cluster for all browser tests; each file starts an application of its own on a copy of the demo. */
export default async function setup() {
  const cluster = await makeTestCluster();
  process.env['TEST_ADMIN_URL'] = cluster.url('postgres');
  return cluster.stop;
}
