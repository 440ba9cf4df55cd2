import {
  type Kiln,
  type KilnLeg,
  type KilnProgram,
  ROOM_C,
  kilnTimeConstant,
  legsOf,
  setpointAt,
} from './program.ts';

/** What a controller shows at one moment. °C, power 0…1, s since the start. */
export interface KilnReading {
  readonly seconds: number;
  readonly setC: number;
  readonly chamberC: number;
  /** What the thermocouple says, behind the chamber. */
  readonly coupleC: number;
  readonly power: number;
  readonly leg: number;
  readonly done: boolean;
}

/** The hold's clock stands while the thermocouple is further than this from the target, K. */
const HOLDING_K = 8;
/** Power per K of error, and per K·s of error that stays. */
const GAIN = 0.02;
const GAIN_INTEGRAL = 0.02 / 240;
/** Longest step of the integration, s. */
const STEP_S = 1;

/**
 * Stands in for a real kiln controller: a first-order heater with a lagging thermocouple, driven by feed-forward and a PI
 * controller. Time is whatever it is told has passed.
 */
export class SimulatedKiln {
  private readonly kiln: Kiln;
  private readonly legs: readonly KilnLeg[];
  private readonly tau: number;
  private clock = 0;
  /** Time on the program's own clock: stands still while a hold waits for the heat. */
  private programClock = 0;
  private chamberC = ROOM_C;
  private coupleC = ROOM_C;
  private integral = 0;
  private power = 0;
  constructor(kiln: Kiln, program: KilnProgram) {
    this.kiln = kiln;
    this.legs = legsOf(program, kiln);
    this.tau = kilnTimeConstant(kiln);
  }

  get reading(): KilnReading {
    const done = this.programClock >= this.legs[this.legs.length - 1].endS;
    const leg = this.legs.findIndex((l) => this.programClock < l.endS);
    return {
      seconds: this.clock,
      setC: setpointAt(this.legs, this.kiln, this.programClock),
      chamberC: this.chamberC,
      coupleC: this.coupleC,
      power: done ? 0 : this.power,
      leg: done ? this.legs.length - 1 : leg,
      done,
    };
  }

  /** Lets so many seconds pass. */
  pass(seconds: number): KilnReading {
    for (let left = seconds; left > 0 && !this.reading.done; left -= STEP_S)
      this.step(Math.min(STEP_S, left));
    return this.reading;
  }

  private step(dt: number): void {
    const { setC, leg } = this.reading;
    const { thereS, segment } = this.legs[leg];
    const error = setC - this.coupleC;
    const waits = this.programClock >= thereS && Math.abs(segment.targetC - this.coupleC) > HOLDING_K;
    const ahead = setpointAt(this.legs, this.kiln, this.programClock + dt);
    const forward =
      ((ahead - setC) / dt) * (this.tau / (this.kiln.maxC - ROOM_C)) +
      (setC - ROOM_C) / (this.kiln.maxC - ROOM_C);
    const wanted = forward + GAIN * error + GAIN_INTEGRAL * this.integral;
    this.power = Math.min(1, Math.max(0, wanted));
    // The integral stands while the heater is at its limit, so that it does not wind up.
    if (this.power === wanted) this.integral += error * dt;
    const full = (this.kiln.maxC - ROOM_C) * this.power;
    const before = this.chamberC;
    this.chamberC += (dt * (full - (before - ROOM_C))) / this.tau;
    const behind = (before + this.chamberC) / 2 - this.coupleC;
    this.coupleC += this.kiln.lagS > dt ? (dt * behind) / this.kiln.lagS : this.chamberC - this.coupleC;
    this.clock += dt;
    if (!waits) this.programClock += dt;
  }
}
