import { parentPort, workerData } from 'node:worker_threads';

const { url, cookie } = workerData;

/** Sends what it is given, and tells how long the answer took: whoever keeps hundreds of stands going is slow to notice it. */
parentPort.on('message', async ({ path, body }) => {
  const began = performance.now();
  const answer = await fetch(`${url}/api/${path}`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body,
  });
  await answer.arrayBuffer();
  parentPort.postMessage({ status: answer.status, milliseconds: performance.now() - began });
});
