// Read into a server under test before anything else: a signal sets its clock to and fro by hours.
const JUMPS = [0, 3600e3, -7200e3, 86400e3, -60e3];
let at = 0;
const now = Date.now.bind(Date);
const Real = Date;
globalThis.Date = class extends Real {
  constructor(...given) {
    super(...(given.length === 0 ? [now() + JUMPS[at]] : given));
  }
  static now() {
    return now() + JUMPS[at];
  }
};
process.on('SIGUSR2', () => (at = (at + 1) % JUMPS.length));
