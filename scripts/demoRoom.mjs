import { parseArgs } from 'node:util';
import { build, install, requireNode } from './prepare.mjs';
import { stop } from './run.mjs';

const SECTIONS = ['Handbells', 'Reeds', 'Contrabass', 'Drums'];

requireNode();
const options = readOptions();
await install();
await build();
const { SimulatedStand } = await import('./simulatedStand.mjs');
await joinAll(options);

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        code: { type: 'string' },
        url: { type: 'string', default: 'http://127.0.0.1:4170' },
        stands: { type: 'string', default: '8' },
        delay: { type: 'string', default: '0' },
        jitter: { type: 'string', default: '0' },
        loss: { type: 'string', default: '0' },
      },
    });
    if (!values.code)
      stop('Open a rehearsal at the podium (a), and give its code: npm run demo:room -- --code ACDEFG');
    const numbers = ['stands', 'delay', 'jitter', 'loss'].map((name) => [name, Number(values[name])]);
    const wrong = numbers.find(([, value]) => !(value >= 0));
    if (wrong) stop(`--${wrong[0]} cannot be "${values[wrong[0]]}": give a number.`);
    return { code: values.code, url: values.url, ...Object.fromEntries(numbers) };
  } catch (error) {
    return stop(
      `${error.message}. Known here: --code --url --stands N --delay MS --jitter MS --loss PERCENT.`,
    );
  }
}

/** Simulated phones in a rehearsal that is open, each with a clock set wrong; how they are is said every five seconds. */
async function joinAll({ code, url, stands: count, delay, jitter, loss }) {
  const stands = [];
  for (let index = 0; index < count; index++) {
    const stand = new SimulatedStand(url, {
      delayMs: delay,
      jitterMs: jitter,
      lossPercent: loss,
      offsetMs: (Math.random() - 0.5) * 6000,
      drift: (Math.random() - 0.5) * 100e-6,
    });
    try {
      await stand.join(code, SECTIONS[index % SECTIONS.length], `simulated ${index + 1}`);
    } catch (error) {
      stop(`Stand ${index + 1} could not join: ${error.message}.`);
    }
    stands.push(stand);
  }
  console.log(`${count} simulated stands have joined; ctrl c takes them out.`);
  setInterval(() => {
    const misses = stands.map((stand) => Math.abs(stand.missMs())).sort((a, b) => a - b);
    const at = (share) => misses[Math.min(misses.length - 1, Math.floor(misses.length * share))]?.toFixed(2);
    const locked = stands.filter((stand) => stand.locked).length;
    console.log(`${locked} of ${count} locked; off by ${at(0.5)} ms (median), ${at(0.99)} ms (p99)`);
  }, 5000);
  process.on('SIGINT', () => {
    for (const stand of stands) stand.close();
    process.exit(0);
  });
}
