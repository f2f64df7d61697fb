import { Integrator, InvalidInput, RAD, type Trouble } from '../numerics';
import { Autopilot, Sensors, type Measurement } from './autopilot';
import { quaternionOf, rotate, rotateBack, type Vector } from './attitude';
import { ACTUATORS, Equations, type Instant } from './dynamics';
import { flatEarth, roundEarth, type Earth } from './earth';
import { bendsOf, inputAt } from './pilot';
import type { Scenario } from './scenario';
import { trimFlight, type FlightTrim } from './trim';
import { gustAt, TurbulentAir, windAt } from './wind';
import type { BoardCommand, BoardTick, BoardTiming, Ending, Flight, FlightSummary, Flown } from './flight';

/** Bounds beyond which a flight is none: m/s, rad/s, m. */
const RUNAWAY = { speed: 3000, rate: 500 };
/** Evaluations of the equations that a flight may take. */
const BUDGET = 20_000_000;
/** Steps in which turbulence comes, s. */
const TURBULENCE_STEP = 0.02;

/** Entries of the state that the error of a step is bounded against: place, velocity, attitude, rates. */
const scales = (tolerance: number, extra: number): Float64Array => {
  const out = new Float64Array(ACTUATORS + extra).fill(tolerance);
  for (let i = 0; i < 3; i++) out[i] = 10 * tolerance;
  return out;
};

/** One flight while it is computed. */
export class FlightRun {
  private readonly earth: Earth;
  private readonly equations: Equations;
  private readonly notes: string[] = [];
  private readonly deflections: Float64Array;
  private readonly trimmed: Float64Array;
  private readonly inputs: { control: number; at: (t: number) => number }[];
  private readonly actuators: { control: number; state: number; spec: Scenario['actuators'][string] }[] = [];
  private readonly turbulence: TurbulentAir | null;
  private readonly gravity: number;
  private turbulent: Vector = [0, 0, 0];
  private autopilot: Autopilot | null = null;
  private readonly channelTo: number[] = [];
  private readonly channelAdds: number[] = [];
  private readonly pending: { due: number; values: number[] }[] = [];
  private throttle: number;
  private trimThrottle = 0;
  private onRail = false;
  private railAxis: Vector = [1, 0, 0];
  /** Latest instant that a right side may look at inputs: they jump at the ends of a stretch. */
  private until = Infinity;
  private since = 0;
  private trim?: FlightTrim;
  private readonly rows: number[][] = [];
  private readonly names: string[];

  constructor(
    private readonly scenario: Scenario,
    private readonly vehicle: Flown,
    private readonly report: (done: number) => void,
  ) {
    const { earth, gravity, wind, gusts, turbulence } = scenario;
    this.earth =
      earth.shape === 'flat'
        ? flatEarth(gravity)
        : roundEarth(gravity, earth.latitudeDeg === undefined ? null : earth.latitudeDeg * RAD);
    this.gravity = this.earth.gravity(0, 0, 0)[2];
    this.turbulence = turbulence ? new TurbulentAir(turbulence, vehicle.aerodynamics?.reference.span ?? 0) : null;
    const still = !wind && gusts.length === 0 && !turbulence;
    const steady = wind && { ...wind, from: wind.fromDeg * RAD };
    const calm: Vector = [0, 0, 0];
    // Gusts have the wind's axes; without a wind those of the launch.
    const from = steady ? steady.from : scenario.launch.headingDeg * RAD + Math.PI;
    const [c, s] = [-Math.cos(from), -Math.sin(from)];
    const airAt = (t: number, height: number): Vector => {
      if (still) return calm;
      const [n, e, d] = steady ? windAt(steady, height) : calm;
      let [along, across, up] = this.turbulent;
      for (const g of gusts) {
        const v = gustAt(g, t);
        if (g.axis === 'along') along += v;
        else if (g.axis === 'across') across += v;
        else up += v;
      }
      return [n + along * c - across * s, e + along * s + across * c, d - up];
    };
    this.equations = new Equations(vehicle, {
      earth: this.earth,
      ground: scenario.ground,
      airAt,
      ...(this.turbulence && { turning: this.turbulence.turning }),
    });
    this.deflections = new Float64Array(vehicle.controls.length);
    this.trimmed = new Float64Array(vehicle.controls.length);
    this.commanded = new Float64Array(vehicle.controls.length).fill(NaN);
    this.throttle = vehicle.thruster ? (scenario.throttle ?? scenario.propeller?.throttle ?? 0) : 0;
    this.inputs = scenario.inputs.map((input, i) => ({
      control: this.controlOf(input.control, `inputs.${i}.control`),
      at: (t) => inputAt(input, t),
    }));
    let state = ACTUATORS;
    for (const [key, spec] of Object.entries(scenario.actuators)) {
      this.actuators.push({ control: this.controlOf(key, `actuators.${key}`), state, spec });
      state += spec.naturalFrequency === undefined ? 1 : 2;
    }
    this.names = vehicle.controls.map((k) => k.name);
    this.notes.push(...(vehicle.notes ?? []));
  }

  private controlOf(name: string, path: string): number {
    const i = this.vehicle.controls.findIndex((c) => c.name === name);
    if (i >= 0) return i;
    const names = this.vehicle.controls.map((c) => c.name);
    throw new InvalidInput(
      'control-missing',
      `There is no control "${name}".`,
      names.length
        ? `There are ${names.join(', ')}.`
        : 'The aircraft has no controls: give its surfaces some in Airframe.',
      path,
    );
  }

  /** The state at the start. */
  private begin(): Float64Array {
    const { launch } = this.scenario;
    const powered = Boolean(this.vehicle.thruster);
    const extra = this.actuators.reduce((n, a) => n + (a.spec.naturalFrequency === undefined ? 1 : 2), 0);
    const y = new Float64Array(ACTUATORS + extra);
    y[2] = -launch.height;
    const psi = launch.headingDeg * RAD;
    const m = new Float64Array(9);
    if (launch.kind === 'flight') {
      if (!this.vehicle.aerodynamics)
        throw new InvalidInput('launch', 'Without aerodynamics nothing trims.', 'Launch it by hand.', 'launch.kind');
      const trim = trimFlight(
        new Equations(this.vehicle, { ...this.equations.around, airAt: () => [0, 0, 0], turning: undefined }),
        {
          speed: launch.speed,
          height: launch.height,
          climb: launch.climbDeg * RAD,
          powered,
          controls: this.deflections.length,
          control: this.vehicle.pitch,
        },
      );
      this.trim = trim;
      if (trim.control >= 0) this.trimmed[trim.control] = trim.deflection;
      else this.notes.push('No control takes the pitching moment: it begins out of balance.');
      if (!powered && launch.climbDeg !== 0)
        this.notes.push(
          `There is no thrust for a climb of ${launch.climbDeg}°: it glides at ${(trim.climb / RAD).toFixed(2)}°.`,
        );
      this.throttle = this.trimThrottle = trim.throttle;
      const d = launch.disturbance;
      y.set(quaternionOf(d.phiDeg * RAD, trim.alpha + trim.climb + d.thetaDeg * RAD, psi), 6);
      this.equations.attitude(y).forEach((v, i) => (m[i] = v));
      const air = rotateBack(m, ...this.equations.around.airAt(0, launch.height));
      y[3] = launch.speed * Math.cos(trim.alpha) + air[0] + d.u;
      y[4] = air[1] + d.v;
      y[5] = launch.speed * Math.sin(trim.alpha) + air[2] + d.w;
      y.set([d.p, d.q, d.r], 10);
    } else if (launch.kind === 'hand') {
      const [a, b] = [launch.alphaDeg * RAD, launch.betaDeg * RAD];
      // The flight path has the elevation; the nose stands above it by the angle of attack.
      y.set(quaternionOf(launch.bankDeg * RAD, launch.elevationDeg * RAD + a * Math.cos(launch.bankDeg * RAD), psi), 6);
      y[3] = launch.speed * Math.cos(a) * Math.cos(b);
      y[4] = launch.speed * Math.sin(b);
      y[5] = launch.speed * Math.sin(a) * Math.cos(b);
      y.set([launch.spin.p * RAD, launch.spin.q * RAD, launch.spin.r * RAD], 10);
    } else {
      y.set(quaternionOf(0, launch.elevationDeg * RAD, psi), 6);
      y[3] = launch.speed;
      this.onRail = true;
      const [ex, ey, ez] = rotate(this.equations.attitude(y), 1, 0, 0);
      this.railAxis = [ex, ey, ez];
    }
    for (const a of this.actuators) y[a.state] = this.trimmed[a.control];
    return y;
  }

  /** Where the controls are told to be. */
  private command(control: number, t: number): number {
    let v = Number.isNaN(this.commanded[control]) ? this.trimmed[control] : this.commanded[control];
    for (const i of this.inputs) if (i.control === control) v += i.at(t);
    this.channelTo.forEach((to, k) => (v += to === control ? this.channelAdds[k] : 0));
    const { least, greatest } = this.vehicle.controls[control];
    return Math.max(least, Math.min(greatest, v));
  }

  private setControls(t: number, y: ArrayLike<number>): Float64Array {
    const d = this.deflections;
    for (let i = 0; i < d.length; i++) d[i] = this.command(i, t);
    for (const a of this.actuators) {
      const { least, greatest } = this.vehicle.controls[a.control];
      d[a.control] = Math.max(least, Math.min(greatest, y[a.state]));
    }
    return d;
  }

  private readonly derivative = (t: number, y: Float64Array, out: Float64Array): void => {
    const time = Math.max(this.since, Math.min(this.until, t));
    const now = this.equations.rates(time, y, this.setControls(time, y), this.throttle, out);
    if (this.onRail) this.hold(y, out, now);
    for (const a of this.actuators) {
      const wanted = this.command(a.control, time);
      const most = a.spec.rateDeg === undefined ? Infinity : a.spec.rateDeg * RAD;
      const bound = (v: number) => Math.max(-most, Math.min(most, v));
      if (a.spec.naturalFrequency === undefined) out[a.state] = bound((wanted - y[a.state]) / a.spec.timeConstant!);
      else {
        const w = a.spec.naturalFrequency;
        out[a.state] = bound(y[a.state + 1]);
        out[a.state + 1] = w * w * (wanted - y[a.state]) - 2 * a.spec.dampingRatio! * w * y[a.state + 1];
      }
    }
  };

  /** On the rail it moves along it and does not turn; friction works against what presses on it. */
  private hold(y: Float64Array, out: Float64Array, now: Instant): void {
    const m = this.equations.attitude(y);
    const weight = rotateBack(m, ...this.earth.gravity(y[0], y[1], y[2])).map((g) => g * now.mass.mass);
    const press = Math.hypot(now.force[1] + weight[1], now.force[2] + weight[2]);
    const { launch } = this.scenario;
    const rub = launch.kind === 'rail' ? launch.friction * press : 0;
    let pull = now.force[0] + weight[0];
    if (y[3] > 1e-9) pull -= rub;
    // It does not slide back: something stands behind it.
    else pull = Math.max(0, pull - rub);
    for (let i = 4; i < 13; i++) out[i] = 0;
    out[3] = pull / now.mass.mass;
  }

  private along(y: ArrayLike<number>): number {
    const [ex, ey, ez] = this.railAxis;
    return y[0] * ex + y[1] * ey + (y[2] + this.scenario.launch.height) * ez;
  }

  private measured(t: number, y: Float64Array): Measurement {
    const { air, height } = this.equations.airState(t, y, this.deflections);
    const m = this.equations.attitude(y);
    const angles = this.earth.angles(m, y[0], y[1], y[2]);
    const [n, e, d] = rotate(m, y[3], y[4], y[5]);
    return {
      ...angles,
      alpha: air.alpha,
      beta: air.beta,
      p: y[10],
      q: y[11],
      r: y[12],
      rTurn: y[12] - (this.gravity / Math.max(1, air.speed)) * Math.sin(angles.phi) * Math.cos(angles.theta),
      climb: Math.atan2(-d, Math.hypot(n, e)),
      course: Math.atan2(e, n),
      height,
      V: air.speed,
      x: y[0],
      y: y[1],
    };
  }

  private startAutopilot(t: number, y: Float64Array): void {
    const { autopilot, waypoints } = this.scenario;
    if (!autopilot) return;
    const bounds = autopilot.channels.map((c, k): [number, number] => {
      if (c.to === 'throttle') {
        this.channelTo.push(-1);
        if (!c.thrust) return [-this.trimThrottle, 1 - this.trimThrottle];
        const { speed, density } = this.airNow(t, y);
        this.trimThrust = this.thrustOf(this.trimThrottle, speed, density);
        return [-this.trimThrust, this.thrustOf(1, speed, density) - this.trimThrust];
      }
      const i = this.controlOf(c.to, `autopilot.channels.${k}.to`);
      this.channelTo.push(i);
      const { least, greatest } = this.vehicle.controls[i];
      return [least - this.trimmed[i], greatest - this.trimmed[i]];
    });
    this.channelAdds.push(...autopilot.channels.map(() => 0));
    this.sensors = new Sensors(autopilot.sensorLag, autopilot.step);
    this.autopilot = new Autopilot(autopilot.channels, autopilot.step, waypoints, bounds, this.measured(t, y));
  }

  private compute(t: number, y: Float64Array): void {
    const values = this.autopilot!.update(t, this.sensors!.tell(this.measured(t, y)));
    this.pending.push({ due: t + this.scenario.autopilot!.delay, values });
    while (this.pending.length > 0 && this.pending[0].due <= t + 1e-9) {
      const { values: now } = this.pending.shift()!;
      now.forEach((v, k) => (this.channelAdds[k] = v));
    }
    const { channels, step } = this.scenario.autopilot!;
    channels.forEach((c, k) => {
      if (c.to !== 'throttle') return;
      const wanted = c.thrust
        ? this.throttleFor(this.trimThrust + this.channelAdds[k], t, y)
        : this.trimThrottle + this.channelAdds[k];
      const asked = Math.max(0, Math.min(1, wanted));
      const lag = c.thrust?.lag ?? 0;
      this.throttle = lag > 0 ? asked + (this.throttle - asked) * Math.exp(-step / lag) : asked;
    });
  }

  private sensors: Sensors | null = null;
  private trimThrust = 0;
  private airNow(t: number, y: Float64Array): { speed: number; density: number } {
    const now = this.equations.instant(t, y, this.setControls(t, y), this.throttle);
    return { speed: now.air.speed, density: now.density };
  }
  private thrustOf(throttle: number, speed: number, density: number): number {
    return this.vehicle.thruster!.thrust(throttle, { speed, density });
  }
  /** The throttle whose thrust is a wanted one, at the speed that there is. */
  private throttleFor(thrust: number, t: number, y: Float64Array): number {
    return this.vehicle.thruster!.throttleFor(thrust, this.airNow(t, y));
  }

  private readonly heads = [
    't', 'x', 'y', 'z', 'u', 'v', 'w', 'phi', 'theta', 'psi', 'p', 'q', 'r', 'alpha', 'beta', 'V',
    'height', 'loadFactor', 'mass', 'thrust', 'throttle',
  ]; // prettier-ignore

  private write(t: number, y: Float64Array): { load: number; beyond: boolean } {
    const now = this.equations.instant(t, y, this.setControls(t, y), this.throttle);
    const { phi, theta, psi } = this.earth.angles(this.equations.attitude(y), y[0], y[1], y[2]);
    const thrust = this.vehicle
      .pushes(t, now.air, now.density, this.throttle)
      .reduce((sum, p) => sum + Math.hypot(...p.force), 0);
    const load = -now.force[2] / (now.mass.mass * this.gravity);
    this.rows.push([
      t, y[0], y[1], y[2], y[3], y[4], y[5], phi, theta, psi, y[10], y[11], y[12], now.air.alpha, now.air.beta,
      now.air.speed, now.height, load, now.mass.mass, thrust, this.throttle, ...this.deflections,
    ]); // prettier-ignore
    return { load, beyond: now.coefficients.beyond };
  }

  go(): Flight {
    const steps = this.loop(this.begin());
    for (;;) {
      const { done, value } = steps.next(null);
      if (done) return value;
    }
  }

  board(timing: BoardTiming) {
    this.outside = timing;
    const y0 = this.begin();
    const trim = Object.fromEntries(this.names.map((name, i) => [name, this.trimmed[i]]));
    return { trim, throttle: this.throttle, steps: this.loop(y0) };
  }

  private outside: BoardTiming | null = null;
  /** What a board outside commands, rad; not a number where it does not. */
  private readonly commanded: Float64Array;

  private take(command: BoardCommand): void {
    for (const [name, v] of Object.entries(command.deflections ?? {})) {
      const i = this.names.indexOf(name);
      if (i >= 0 && Number.isFinite(v)) this.commanded[i] = v;
    }
    if (command.throttle !== undefined && Number.isFinite(command.throttle) && this.vehicle.thruster)
      this.throttle = Math.max(0, Math.min(1, command.throttle));
  }

  private *loop(y0: Float64Array): Generator<BoardTick, Flight, BoardCommand | null> {
    const { scenario, vehicle, outside } = this;
    const { duration, record, tolerance, launch } = scenario;
    const autopilot = scenario.autopilot ?? (outside && { step: outside.step, from: 0 });
    const late: { due: number; command: BoardCommand }[] = [];
    if (!this.equations.turns(0))
      this.notes.push('All mass lies in one point or on one line: it flies without turning. Give mass items a size.');
    const from = autopilot ? Math.min(duration, autopilot.from) : Infinity;
    const solver = new Integrator(
      this.derivative,
      0,
      y0,
      { relative: tolerance, absolute: scales(tolerance, y0.length - ACTUATORS) },
      Math.min(record, 1e-3),
    );
    const bends = [...new Set([...scenario.inputs.flatMap(bendsOf), ...vehicle.bends])]
      .filter((t) => t > 0 && t < duration)
      .sort((a, b) => a - b);
    for (const g of scenario.gusts) bends.push(g.start, g.start + g.duration);
    bends.sort((a, b) => a - b);
    const burnOuts: FlightSummary['burnOuts'] = [];
    let ended: Ending = 'time';
    let reason = `The ${Number(duration.toPrecision(6))} s are over.`;
    let leftRail: FlightSummary['leftRail'];
    let greatest = { load: 0, height: launch.height, speed: 0, alpha: 0 };
    let beyond = 0;
    let recorded = 0;
    const y = solver.y;
    const note = (t: number) => {
      const { load, beyond: out } = this.write(t, y);
      const row = this.rows[this.rows.length - 1];
      greatest = {
        load: Math.abs(load) > Math.abs(greatest.load) ? load : greatest.load,
        height: Math.max(greatest.height, row[16]),
        speed: Math.max(greatest.speed, row[15]),
        alpha: Math.abs(row[13]) > Math.abs(greatest.alpha) ? row[13] : greatest.alpha,
      };
      recorded++;
      if (out) beyond++;
    };
    const height = (_t: number, s: ArrayLike<number>) => this.earth.height(s[0], s[1], s[2]);
    const sinking = () => rotate(this.equations.attitude(y), y[3], y[4], y[5])[2];
    const resting = () => height(0, y) <= 1e-9 && sinking() >= 0;
    let tick = 0;
    let line = 0;
    let gustTick = 0;
    let bend = 0;
    if (from === 0 && !outside) this.startAutopilot(0, y);
    const grounded = !this.onRail && resting();
    if (grounded) {
      note(0);
      [ended, reason] = ['ground', 'It stands on the ground at 0 s: give the launch a height, or a climb.'];
    }
    while (!grounded) {
      const t = solver.t;
      if (this.turbulence && t >= gustTick * TURBULENCE_STEP - 1e-9) {
        const { air, height: h } = this.equations.airState(t, y, this.deflections);
        this.turbulent = this.turbulence.next(TURBULENCE_STEP, air.speed, h);
        gustTick++;
      }
      if (t >= from - 1e-9 && t >= from + tick * (autopilot?.step ?? 1) - 1e-9) {
        if (outside) {
          // A board makes what is derived from the others itself.
          const { rTurn: _, ...told } = this.measured(t, y);
          const answer = yield { n: tick, t, ...told };
          if (answer) late.push({ due: t + outside.delay, command: answer });
          while (late.length > 0 && late[0].due <= t + 1e-9) this.take(late.shift()!.command);
        } else {
          if (!this.autopilot) this.startAutopilot(t, y);
          this.compute(t, y);
        }
        tick++;
        if (this.autopilot?.done) {
          note(t);
          [ended, reason] = ['waypoints', `All way-points are reached after ${t.toFixed(2)} s.`];
          break;
        }
      }
      if (t >= line * record - 1e-9) {
        note(t);
        line++;
        if (line % 200 === 0) this.report(t / duration);
      }
      if (t >= duration - 1e-12) {
        if (this.onRail) [ended, reason] = ['on-rail', 'It did not leave the rail: its thrust does not carry it off.'];
        break;
      }
      while (bend < bends.length && bends[bend] <= t + 1e-12) bend++;
      const stop = Math.min(
        duration,
        line * record,
        bends[bend] ?? Infinity,
        autopilot ? (t < from - 1e-9 ? from : from + tick * autopilot.step) : Infinity,
        this.turbulence ? gustTick * TURBULENCE_STEP : Infinity,
      );
      this.since = t + 1e-12;
      this.until = stop - 1e-12;
      solver.changed();
      const length = launch.kind === 'rail' ? launch.length : 0;
      const events = this.onRail ? [(_t: number, s: ArrayLike<number>) => length - this.along(s)] : [height];
      const found: number | Trouble = solver.to(Math.max(stop, t + 1e-12), events, BUDGET);
      for (const b of vehicle.burnOuts)
        if (b.t > t && b.t <= solver.t)
          burnOuts.push({ ...b, speed: Math.hypot(y[3], y[4], y[5]), height: height(0, y) });
      const wild = Math.hypot(y[3], y[4], y[5]) > RUNAWAY.speed || Math.hypot(y[10], y[11], y[12]) > RUNAWAY.rate;
      if (typeof found === 'string' || wild) {
        note(solver.t);
        ended = 'diverged';
        reason = `It ran away at ${solver.t.toFixed(3)} s: ${
          wild
            ? `${Math.hypot(y[3], y[4], y[5]).toFixed(0)} m/s, turning at ${(Math.hypot(y[10], y[11], y[12]) / RAD).toFixed(0)} °/s`
            : found === 'budget'
              ? 'the equations were evaluated more often than a flight may take'
              : 'no step of time was small enough'
        }. Look at the loops and their signs.`;
        break;
      }
      if (found >= 0 && this.onRail) {
        this.onRail = false;
        leftRail = { t: solver.t, speed: y[3] };
        if (!resting()) continue;
      }
      if (found >= 0 || (!this.onRail && resting())) {
        note(solver.t);
        [ended, reason] = ['ground', `It meets the ground after ${solver.t.toFixed(2)} s.`];
        break;
      }
    }
    this.report(1);
    const last = this.rows[this.rows.length - 1];
    const [vn, ve, vd] = rotate(this.equations.attitude(y), y[3], y[4], y[5]);
    const share = recorded > 0 ? beyond / recorded : 0;
    if (share > 0)
      this.notes.push(
        `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} % of the time the angles lie beyond the tables: flat plates stand in there, which is only a guide.`,
      );
    const { trim } = this;
    return {
      columns: [...this.heads, ...this.names],
      series: [...this.heads, ...this.names].map((_, i) => this.rows.map((row) => row[i])),
      summary: {
        range: Math.hypot(last[1], last[2]),
        time: last[0],
        greatestLoadFactor: greatest.load,
        greatestHeight: greatest.height,
        greatestSpeed: greatest.speed,
        greatestAlphaDeg: greatest.alpha / RAD,
        ended,
        reason,
        endSpeed: Math.hypot(vn, ve, vd),
        endSink: vd,
        ...(trim && {
          trim: {
            alphaDeg: trim.alpha / RAD,
            climbDeg: trim.climb / RAD,
            throttle: trim.throttle,
            controls: trim.control < 0 ? {} : { [this.names[trim.control]]: trim.deflection / RAD },
          },
        }),
        ...(leftRail && { leftRail }),
        burnOuts,
        waypoints: this.autopilot?.reached ?? [],
        beyondTables: share,
        notes: this.notes,
        work: { steps: solver.steps, evaluations: solver.evaluations },
      },
    };
  }
}
