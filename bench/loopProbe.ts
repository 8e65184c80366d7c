import { monitorEventLoopDelay } from 'node:perf_hooks';

/** Loaded into a server that is measured: on each message it tells the longest its event loop was held since the last, in milliseconds. */
const resolution = 5;
const delays = monitorEventLoopDelay({ resolution });
delays.enable();
process.on('message', (message) => {
  if (message !== 'held') return;
  process.send?.({ held: Math.max(0, delays.max / 1e6 - resolution) });
  delays.reset();
});
// The channel must not keep a server that is told to stop.
process.channel?.unref();
