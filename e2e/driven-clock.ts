import type { BrowserContext, Page } from '@playwright/test';

/** What the page is asked to play until: an element and what it says, or that so many seconds have passed. */
type Goal = { selector: string; text?: string } | { seconds: number };

/** The clock of a page, as a test reaches it. */
interface DrivenClock {
  /** Plays as fast as the machine can until it is reached; false where that did not come in so much time of this clock. */
  playUntil(goal: Goal, limitMs: number): Promise<boolean>;
}

/**
 * Runs in the page before anything of Isochron: its timers, its time of day and its audio get one clock, which goes on step by step and
 * only when all that was asked of the workers is done. Sound is rendered by the browser's own offline context, by the same worklets and
 * sample by sample as live; the worklets, the workers and the page do not know the difference. It keeps to real time until a test asks
 * for more, and on a busy machine it goes slower instead of losing sound.
 */
const install = (): void => {
  /** A step of the clock in real time, and one where time is to pass: whole render quanta, shorter than the loop's own look at the clock. */
  const STEP_FRAMES = 8 * 128;
  const LONG_STEP_FRAMES = 20 * 128;
  const RATE_HZ = 48_000;
  const msOf = (frames: number) => (1000 * frames) / RATE_HZ;
  const LONGEST_S = 240;
  /** A worker that gives no sign for so long has died; the clock goes on without it. */
  const DEAD_MS = 20_000;

  const native = {
    nowMs: performance.now.bind(performance),
    setTimeout: window.setTimeout.bind(window),
    clearTimeout: window.clearTimeout.bind(window),
    setInterval: window.setInterval.bind(window),
    frame: window.requestAnimationFrame.bind(window),
    timeStamp: Object.getOwnPropertyDescriptor(Event.prototype, 'timeStamp')?.get as (this: Event) => number,
    Date,
    Worker,
  };
  const realMs = (ms: number) => new Promise<void>((resolve) => native.setTimeout(resolve, ms));

  // The clock: free, it runs with the machine's; driven, it stands between steps.
  let isDriven = false;
  let stepMs = 0;
  let steppedAtMs = 0;
  let aheadMs = 0;
  const nowMs = () =>
    isDriven ? stepMs + Math.min(0.9 * msOf(STEP_FRAMES), native.nowMs() - steppedAtMs) : native.nowMs() + aheadMs;
  const drive = () => {
    stepMs = nowMs();
    steppedAtMs = native.nowMs();
    isDriven = true;
  };
  const letGo = () => {
    aheadMs = nowMs() - native.nowMs();
    isDriven = false;
    arm();
  };

  // Timers.
  interface Timer {
    atMs: number;
    everyMs: number | null;
    run: () => void;
  }
  const timers = new Map<number, Timer>();
  let lastTimer = 0;
  let armed: number | undefined;
  const runDue = () => {
    for (const [id, timer] of [...timers].sort(([, a], [, b]) => a.atMs - b.atMs)) {
      if (timer.atMs > nowMs() || !timers.has(id)) continue;
      if (timer.everyMs === null) timers.delete(id);
      else timer.atMs = Math.max(timer.atMs + timer.everyMs, nowMs());
      timer.run();
    }
  };
  const arm = () => {
    native.clearTimeout(armed);
    if (isDriven || timers.size === 0) return;
    const nextMs = Math.min(...[...timers.values()].map(({ atMs }) => atMs)) - nowMs();
    armed = native.setTimeout(
      () => {
        runDue();
        arm();
      },
      Math.max(0, nextMs),
    );
  };
  const addTimer = (what: TimerHandler, ms: number, repeats: boolean, values: unknown[]): number => {
    if (typeof what !== 'function') throw new Error('A timer runs a function.');
    lastTimer += 1;
    timers.set(lastTimer, {
      atMs: nowMs() + Math.max(0, ms),
      everyMs: repeats ? Math.max(4, ms) : null,
      run: () => what(...values),
    });
    arm();
    return lastTimer;
  };
  const removeTimer = (id?: number) => {
    timers.delete(id ?? 0);
    arm();
  };
  const pageTimers = {
    setTimeout: (what: TimerHandler, ms = 0, ...values: unknown[]) => addTimer(what, ms, false, values),
    setInterval: (what: TimerHandler, ms = 0, ...values: unknown[]) => addTimer(what, ms, true, values),
    clearTimeout: removeTimer,
    clearInterval: removeTimer,
    requestAnimationFrame: (draw: FrameRequestCallback) => native.frame(() => draw(nowMs())),
  };
  Object.assign(window, pageTimers);

  // The time of day, and when a key was pressed.
  performance.now = nowMs;
  const dayMs = () => Math.round(native.Date.now() + nowMs() - native.nowMs());
  window.Date = new Proxy(native.Date, {
    construct: (target, values: []) => (values.length === 0 ? new target(dayMs()) : new target(...values)),
    get: (target, name) => (name === 'now' ? dayMs : Reflect.get(target, name)),
  });
  Object.defineProperty(Event.prototype, 'timeStamp', {
    get(this: Event) {
      return native.timeStamp.call(this) + nowMs() - native.nowMs();
    },
  });

  // Workers: what was asked of them, and whether they have done with what they were sent.
  const workers = new Set<CountedWorker>();
  class CountedWorker extends native.Worker {
    private asked = new Set<string>();
    private whenDone: (() => void)[] = [];
    private questions = 0;
    /** Whether sound comes to it past the page. */
    private hasPort = false;
    private lastSignMs = native.nowMs();
    constructor(address: string | URL, options?: WorkerOptions) {
      super(address, options);
      workers.add(this);
      this.addEventListener('message', ({ data }) => {
        this.lastSignMs = native.nowMs();
        this.asked.delete(data?.id);
        if (this.asked.size === 0) this.release();
      });
    }
    private release() {
      for (const done of this.whenDone.splice(0)) done();
    }
    override postMessage(message: { id?: string }, rest?: unknown) {
      if (this.asked.size === 0) this.lastSignMs = native.nowMs();
      if (message?.id) this.asked.add(message.id);
      this.hasPort ||= Array.isArray(rest) && rest.some((one) => one instanceof MessagePort);
      super.postMessage(message, rest as Transferable[]);
    }
    /** It is not waited for any more. */
    leave() {
      workers.delete(this);
      this.release();
    }
    override terminate() {
      this.leave();
      super.terminate();
    }
    /** Settles when all that it was asked has been answered. */
    isDone(): Promise<void> {
      return this.asked.size === 0 ? Promise.resolve() : new Promise((resolve) => this.whenDone.push(resolve));
    }
    /** The same, with one question more: it has then done with what came to it another way. */
    hasHeard(): Promise<void> {
      if (!this.hasPort) return this.isDone();
      this.questions += 1;
      this.postMessage({ id: `clock-${this.questions}`, type: 'GET', path: ['clock'] } as { id: string });
      return this.isDone();
    }
    isDead(): boolean {
      return this.asked.size > 0 && native.nowMs() - this.lastSignMs > DEAD_MS;
    }
  }
  window.Worker = CountedWorker;
  native.setInterval(() => {
    for (const worker of workers) if (worker.isDead()) worker.leave();
  }, 1000);

  // Audio.
  /** Told the frame of the first click after a microphone was opened. */
  let tellFirstClick: (frame: number) => void = () => {};
  const post = MessagePort.prototype.postMessage;
  MessagePort.prototype.postMessage = function (this: MessagePort, ...what: unknown[]) {
    const [message] = what as [{ type?: string; sounds?: { frame: number }[] } | null];
    const first = message?.type === 'play' ? message.sounds?.[0] : undefined;
    if (first) tellFirstClick(first.frame);
    return post.apply(this, what as Parameters<typeof post>);
  };
  const playing = new Set<DrivenContext>();
  /** Tells whether it is reached; null while the page keeps to real time. */
  let goal: (() => boolean) | null = null;
  class DrivenContext extends OfflineAudioContext {
    readonly baseLatency = 0.01;
    readonly outputLatency = 0.02;
    private loading = 0;
    private frames = 0;
    private nextStep: Promise<void> | null = null;
    constructor() {
      super({ numberOfChannels: 1, length: LONGEST_S * RATE_HZ, sampleRate: RATE_HZ });
      const { audioWorklet } = this;
      const add = audioWorklet.addModule.bind(audioWorklet);
      audioWorklet.addModule = async (address) => {
        this.loading += 1;
        await add(address).finally(() => {
          this.loading -= 1;
        });
      };
    }
    override async resume() {
      if (playing.has(this)) return;
      playing.add(this);
      void this.begin();
    }
    private async begin() {
      // Worklets are there from the first step on, or the context does without them.
      do await realMs(30);
      while (this.loading > 0);
      this.nextStep = this.suspendAfter(STEP_FRAMES);
      void this.startRendering();
      await this.nextStep;
      void run();
    }
    private suspendAfter(frames: number) {
      this.frames += frames;
      return super.suspend(this.frames / RATE_HZ);
    }
    async step(frames: number) {
      if (!this.nextStep) return;
      // What a microphone is to hear is there before the clock goes on.
      while (this.loading > 0) await realMs(5);
      await this.nextStep;
      this.nextStep = this.suspendAfter(frames);
      await super.resume();
      await this.nextStep;
    }
    /** What a microphone hears is a file; it begins with the first click, and again and again. Without one it is silent. */
    createMediaStreamSource() {
      const microphone = this.createBufferSource();
      if (!('microphoneHears' in window)) return microphone;
      microphone.loop = true;
      this.loading += 1;
      const firstClick = new Promise<number>((resolve) => {
        tellFirstClick = resolve;
      });
      void fetch('/driven-microphone.wav')
        .then((answer) => answer.arrayBuffer())
        .then((bytes) => this.decodeAudioData(bytes))
        .then((sound) => {
          microphone.buffer = sound;
          void firstClick.then((frame) => microphone.start(frame / RATE_HZ));
        })
        .finally(() => {
          this.loading -= 1;
        });
      return microphone;
    }
    getOutputTimestamp() {
      return { contextTime: this.currentTime, performanceTime: isDriven ? stepMs : nowMs() };
    }
    async close() {
      playing.delete(this);
    }
  }
  Object.assign(window, { AudioContext: DrivenContext });
  // It delivers what the clock of the audio says, and no more.
  Object.defineProperty(MediaStreamTrack.prototype, 'stats', {
    configurable: true,
    get: () => ({ deliveredFramesDuration: 1000 * ([...playing].at(-1)?.currentTime ?? 0) }),
  });

  let isRunning = false;
  const run = async () => {
    if (isRunning) return;
    isRunning = true;
    drive();
    let paceMs = native.nowMs();
    while (playing.size > 0) {
      const frames = goal ? LONG_STEP_FRAMES : STEP_FRAMES;
      await Promise.all([...playing].map((context) => context.step(frames)));
      stepMs += msOf(frames);
      steppedAtMs = native.nowMs();
      await Promise.all([...workers].map((worker) => worker.hasHeard()));
      runDue();
      await Promise.all([...workers].map((worker) => worker.isDone()));
      if (goal?.()) goal = null;
      paceMs += msOf(frames);
      if (goal) paceMs = native.nowMs();
      else if (paceMs > native.nowMs()) await realMs(paceMs - native.nowMs());
    }
    isRunning = false;
    letGo();
  };

  const clock: DrivenClock = {
    async playUntil(wanted, limitMs) {
      const fromMs = nowMs();
      const isReached = () =>
        'seconds' in wanted
          ? nowMs() - fromMs >= 1000 * wanted.seconds
          : [...document.querySelectorAll(wanted.selector)].some(
              ({ textContent }) => wanted.text === undefined || (textContent ?? '').includes(wanted.text),
            );
      // By what is played, not by the machine: a busy one takes longer, and the test's own limit is there for one that hangs.
      const endMs = fromMs + limitMs;
      goal = isReached;
      while (goal && nowMs() < endMs) {
        await realMs(10);
        if (!isRunning && isReached()) goal = null;
      }
      const wasReached = goal === null;
      goal = null;
      return wasReached;
    },
  };
  Object.assign(window, { drivenClock: clock });
};

/**
 * Gives the pages of a context a clock that tests can drive; before any is opened.
 *
 * @param microphoneFile a WAV file that their microphone hears; null for silence.
 */
export const driveClock = async (context: BrowserContext, microphoneFile: string | null): Promise<void> => {
  if (microphoneFile) {
    // Only then: a route keeps the browser from using its cache, as it would where the server is gone.
    await context.route('**/driven-microphone.wav', (route) => route.fulfill({ path: microphoneFile }));
    await context.addInitScript(() => Object.assign(window, { microphoneHears: true }));
  }
  await context.addInitScript(install);
};

/** Longer than anything is played here. */
const LONGEST_MS = 200_000;

const play = (page: Page, goal: Goal, limitMs: number): Promise<boolean | undefined> =>
  page.evaluate(([to, ms]) => (window as unknown as { drivenClock?: DrivenClock }).drivenClock?.playUntil(to, ms), [
    goal,
    limitMs,
  ] as const);

/** Lets a page play on until it shows an element, whose text holds what is given: as fast as it can where its clock is driven, else live. */
export const playUntil = async (page: Page, selector: string, text?: string, limitMs = LONGEST_MS): Promise<void> => {
  const isReached = await play(page, { selector, ...(text === undefined ? {} : { text }) }, limitMs);
  if (isReached === false) throw new Error(`${selector} ${text ?? ''} was not there after ${limitMs / 1000} s of playing.`);
  if (isReached) return;
  const shown = page.locator(selector).filter(text === undefined ? {} : { hasText: text });
  await shown.first().waitFor({ timeout: limitMs });
};

/** Lets a page play on for so long. */
export const playFor = async (page: Page, seconds: number): Promise<void> => {
  const isOver = await play(page, { seconds }, 1000 * seconds + LONGEST_MS);
  if (isOver === undefined) await page.waitForTimeout(1000 * seconds);
};
