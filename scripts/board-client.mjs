// A board that flies a candidate over the socket of a running server: node scripts/board-client.mjs PROJECT CANDIDATE SCENARIO [--url http://127.0.0.1:4410] [--token T]
// It damps pitch and roll and holds the attitude of the start; see docs/board.md.
import { WebSocket } from 'ws';

const options = process.argv.slice(2);
const option = (name, otherwise) => {
  const i = options.indexOf(`--${name}`);
  return i < 0 ? otherwise : options.splice(i, 2)[1];
};
const url = option('url', 'http://127.0.0.1:4410');
const token = option('token', process.env.VELDTWIND_TOKEN);
const [project, candidate, scenario] = options;
if (!scenario) {
  process.stderr.write('node scripts/board-client.mjs PROJECT CANDIDATE SCENARIO [--url ADDRESS] [--token TOKEN]\n');
  process.exit(1);
}
const socket = new WebSocket(`${url.replace(/^http/, 'ws')}/api/v1/board`, {
  headers: token ? { authorization: `Bearer ${token}` } : {},
});
const trim = {};
let start;
socket.on('open', () =>
  socket.send(
    JSON.stringify({
      type: 'fly',
      project,
      candidate,
      scenario,
      link: { step: 0.02, lost: 0.02, noise: { rates: 0.01 } },
    }),
  ),
);
socket.on('message', (data) => {
  const m = JSON.parse(String(data));
  if (m.type === 'ready') {
    for (const c of m.controls) trim[c.name] = c.trim;
    process.stdout.write(`ready: ${Object.keys(trim).join(', ')}\n`);
  } else if (m.type === 'sensors') {
    start ??= { theta: m.theta, phi: m.phi };
    const deflections = {};
    // Trailing edge down pitches nose down, and the right aileron down rolls to the left.
    if ('Elevator' in trim) deflections.Elevator = trim.Elevator + 0.1 * m.q + 0.4 * (m.theta - start.theta);
    if ('Aileron' in trim) deflections.Aileron = trim.Aileron + 0.1 * m.p + 0.3 * (m.phi - start.phi);
    socket.send(JSON.stringify({ type: 'controls', n: m.n, deflections }));
    if (m.n % 50 === 0) process.stdout.write(`${m.t.toFixed(2)} s: ${m.height.toFixed(1)} m, ${m.V.toFixed(1)} m/s\n`);
  } else if (m.type === 'ended') process.stdout.write(`${m.summary.reason}\n`);
  else process.stderr.write(`${m.code}: ${m.message} ${m.hint ?? ''}\n`);
});
socket.on('error', (error) => {
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
});
