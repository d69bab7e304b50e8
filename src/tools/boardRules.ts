import type { ChannelGroup, Greeting } from "@core/link";
import { type LineTalk, sleep } from "./lineTalk";

/** One rule of docs/link-protocol.md: gives null where the board keeps it, else what it did. */
export interface BoardRule {
  readonly rule: string;
  readonly look: (talk: LineTalk, board: Greeting) => Promise<string | null>;
}

const group0 = (board: Greeting) => board.groups[0] as ChannelGroup;
const middle = (board: Greeting) => Math.floor((group0(board).lowestCount + group0(board).highestCount) / 2);
const frameMs = (board: Greeting) => Math.max(...board.groups.map(({ periodNs }) => periodNs)) / 1e6;
const said = (answer: string | null) => (answer === null ? "nothing" : `“${answer}”`);

/** What a line is to be answered with, word for word; null where nothing may come. */
async function expects(talk: LineTalk, body: string, answer: string | RegExp | null): Promise<string | null> {
  const heard = await talk.ask(body);
  const isRight =
    answer === null
      ? heard === null
      : typeof answer === "string"
        ? heard === answer
        : heard !== null && answer.test(heard);
  return isRight
    ? null
    : `to “${body}” it says ${said(heard)}, not ${answer === null ? "nothing" : `“${answer instanceof RegExp ? answer.source : answer}”`}`;
}

/** The first thing that is wrong in a row of looks. */
async function firstOf(looks: readonly (() => Promise<string | null>)[]): Promise<string | null> {
  for (const look of looks) {
    const wrong = await look();
    if (wrong !== null) return wrong;
  }
  return null;
}

/** Greets, sets the longest watchdog, and gives channel 0 wide limits: where most rules begin. */
async function begin(talk: LineTalk, board: Greeting, step = group0(board).highestCount): Promise<string | null> {
  if (!(await talk.greet())) return "it does not answer a greeting";
  const { lowestCount, highestCount } = group0(board);
  return firstOf([
    () => expects(talk, `R ${talk.next()}`, /^A \d+ \d+$/),
    () => expects(talk, `W ${talk.next()} 60000 hold`, /^A \d+ \d+$/),
    () => expects(talk, `L ${talk.next()} 0:${lowestCount}:${highestCount}:${step}`, /^A \d+ \d+$/),
  ]);
}

const done = (talk: LineTalk, body: string) => expects(talk, body, /^A \d+ \d+$/);
const refused = (talk: LineTalk, body: string, sequence: number, code: string) =>
  expects(talk, body, `E ${sequence} ${code}`);

/** Which channels it says are driven. Greeting it tells, and forgets the limits. */
async function driven(talk: LineTalk, channels: readonly number[]): Promise<string | null> {
  const greeting = await talk.greet();
  const now = greeting?.driven.join(",") ?? "nothing that can be read";
  return now === channels.join(",")
    ? null
    : `channels ${now || "none"} have a signal, not ${channels.join(",") || "none"}`;
}

/** Every rule that can be seen from the line, in the order of the page. */
export const boardRules: readonly BoardRule[] = [
  {
    rule: "A greeting says name, unit, channels, longest line, groups and what is driven",
    look: async (_, board) => {
      if (!/^[A-Za-z0-9_-]{1,40}$/.test(board.name)) return `its name is “${board.name}”`;
      if (board.longestLine < 64 || board.longestLine > 1024) return `its longest line is ${board.longestLine}`;
      let next = 0;
      for (const { first, last, periodNs, lowestCount, highestCount } of board.groups) {
        if (first !== next || last < first) return `its groups leave out or repeat channel ${next}`;
        if (periodNs <= 0 || lowestCount >= highestCount) return "a group has no frame, or no counts";
        next = last + 1;
      }
      return next === board.channels ? null : `it has ${board.channels} channels, and tells of ${next}`;
    },
  },
  {
    rule: "A greeting of any version is answered with its own",
    look: async (talk) => {
      for (const version of [0, 1, 3, 4_294_967_295])
        if ((await talk.greet(version))?.version !== 2)
          return `a greeting of version ${version} is not answered as version 2`;
      return null;
    },
  },
  {
    rule: "A line with a wrong check value is refused as check",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        async () => {
          for (const line of ["R 1#0000", "R 1#ca41", "S 4#BB34", "R 1#G000", "V 2#00"]) {
            await talk.listen(0);
            talk.raw(`${line}\n`);
            const heard = await talk.hear();
            const wanted = line === "V 2#00" ? /^E 0 (check|form)$/ : /^E 0 check$/;
            if (!wanted.test(heard ?? "")) return `to “${line}” it says ${said(heard)}`;
          }
          return null;
        },
      ]),
  },
  {
    rule: "A line that is not exactly of a form of the page is refused as form, and changes nothing",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
        async () => {
          const at = middle(board);
          const bad = [
            `S  9 0:${at}`,
            `S 9  0:${at}`,
            `S 9 0:${at} `,
            ` S 9 0:${at}`,
            `S 09 0:${at}`,
            `S 9 00:${at}`,
            `S 9 0:0${at}`,
            `S 9 0:+${at}`,
            `S 9 0:-1`,
            `S 9 0:${at}.0`,
            `S 9 0`,
            `S 9 0:${at}:1`,
            `S 9 0:${at} 0:${at}`,
            `S 9 0:4294967296`,
            "S 0",
            "S 65536",
            "S",
            "s 9",
            "R 9 1",
            "R",
            "L 9",
            "L 9 0:1:2",
            "L 9 0:1:2:3:4",
            "W 9 500",
            "W 9 500 Hold",
            "W 9 500 hold 1",
            "V",
            "V 02",
            "V 2 2",
            "V -1",
            "X 9",
            "A 9 0",
            `S 9 0:${at}\u0001`,
            `S 9 0:${at}\u00ff`,
            "S\t9",
          ];
          for (const body of bad) {
            const wrong = await refused(talk, body, 0, "form");
            if (wrong) return wrong;
          }
          return null;
        },
        () => driven(talk, [0]),
      ]),
  },
  {
    rule: "Carriage returns are left out, and empty lines get no answer",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        async () => {
          await talk.listen(0);
          talk.raw("\n\r\n\n");
          const heard = await talk.hear(120);
          return heard === null ? null : `to empty lines it says ${said(heard)}`;
        },
        async () => {
          await talk.listen(0);
          talk.raw("\rV \r2#30\r05\r\n");
          const heard = await talk.hear();
          return heard?.startsWith("V 2 ")
            ? null
            : `a greeting with carriage returns in it is answered with ${said(heard)}`;
        },
      ]),
  },
  {
    rule: "A line that is too long is refused as form when its end comes, and costs no other",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        async () => {
          await talk.listen(0);
          for (let at = 0; at < 40; at += 1) talk.raw("S 9 0:1 1:1 2:1 3:1 4:1 5:1 ");
          const early = await talk.hear(150);
          if (early !== null) return `before its end comes it says ${said(early)}`;
          talk.raw("\n");
          const heard = await talk.hear();
          return heard === "E 0 form" ? null : `to a line of 1120 bytes it says ${said(heard)}`;
        },
        async () => {
          // Its end alone would be a good line.
          for (const before of [board.longestLine - 1, board.longestLine]) {
            talk.raw("x".repeat(before));
            const wrong = await refused(talk, `W ${talk.next()} 60000 hold`, 0, "form");
            if (wrong) return `${wrong}, behind ${before} other bytes`;
          }
          return null;
        },
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
      ]),
  },
  {
    rule: "Noise costs the line it falls in, and no other",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        async () => {
          talk.raw("\u0000\u00ff#\u0080S 1\n");
          await talk.listen(60);
          return null;
        },
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
      ]),
  },
  {
    rule: "Numbers go up to half the circle ahead; others are stale",
    look: async (talk, board) => {
      const at = (sequence: number) => `S ${sequence} 0:${middle(board)}`;
      return firstOf([
        () => begin(talk, board),
        () => talk.greet().then(() => null),
        () => done(talk, "R 40000"),
        () => refused(talk, "W 40000 60000 hold", 40_000, "stale"),
        () => refused(talk, at(39_999), 39_999, "stale"),
        () => refused(talk, at(7232 + 1), 7233, "stale"),
        () => done(talk, "W 7232 60000 hold"),
        () => done(talk, "W 39999 60000 hold"),
        () => done(talk, "W 65535 60000 hold"),
        () => done(talk, "W 1 60000 hold"),
        () => refused(talk, "W 65535 60000 hold", 65_535, "stale"),
      ]);
    },
  },
  {
    rule: "A greeting starts the numbers anew",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, "W 30000 60000 hold"),
        () => talk.greet().then(() => null),
        () => done(talk, "W 5 60000 hold"),
      ]),
  },
  {
    rule: "A release is obeyed whatever its number, and never sets the last number back",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `S 300 0:${middle(board)}`),
        () => done(talk, "R 7"),
        () => refused(talk, `S 299 0:${middle(board)}`, 299, "stale"),
        () => driven(talk, []),
      ]),
  },
  {
    rule: "Channels and counts that it has not are refused as range",
    look: async (talk, board) => {
      const { lowestCount: low, highestCount: high } = group0(board);
      const n = () => talk.next();
      const range = (make: (sequence: number) => string) => async () => {
        const sequence = n();
        return refused(talk, make(sequence), sequence, "range");
      };
      return firstOf([
        () => begin(talk, board),
        range((sequence) => `S ${sequence} ${board.channels}:${low}`),
        range((sequence) => `S ${sequence} 4294967295:${low}`),
        range((sequence) => `S ${sequence} 0:${high + 1}`),
        range((sequence) => `S ${sequence} 0:4294967295`),
        range((sequence) => `L ${sequence} ${board.channels}:${low}:${high}:1`),
        range((sequence) => `L ${sequence} 0:${low}:${high + 1}:1`),
        range((sequence) => `L ${sequence} 0:${low + 2}:${low + 1}:1`),
        range((sequence) => `W ${sequence} 99 hold`),
        range((sequence) => `W ${sequence} 60001 hold`),
      ]);
    },
  },
  {
    rule: "A channel without limits gets no signal, and a greeting forgets them",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => talk.greet().then(() => null),
        () => refused(talk, `S 1 0:${middle(board)}`, 1, "limit"),
        () => driven(talk, []),
      ]),
  },
  {
    rule: "A count outside its limits, or further than its step, is refused as limit",
    look: async (talk, board) => {
      const at = middle(board);
      const limit = (count: number) => async () => {
        const sequence = talk.next();
        return refused(talk, `S ${sequence} 0:${count}`, sequence, "limit");
      };
      const good = (count: number) => () => done(talk, `S ${talk.next()} 0:${count}`);
      return firstOf([
        () => begin(talk, board),
        () => done(talk, `L ${talk.next()} 0:${at - 20}:${at + 20}:5`),
        limit(at - 21),
        limit(at + 21),
        // The first count of a channel without a signal may be anywhere within.
        good(at - 20),
        good(at - 15),
        limit(at - 9),
        good(at - 10),
        limit(at - 16),
      ]);
    },
  },
  {
    rule: "Where limits were drawn in around a count, it may stay and come nearer, and goes no further out",
    look: async (talk, board) => {
      const at = middle(board);
      const limit = (count: number) => async () => {
        const sequence = talk.next();
        return refused(talk, `S ${sequence} 0:${count}`, sequence, "limit");
      };
      const good = (count: number) => () => done(talk, `S ${talk.next()} 0:${count}`);
      return firstOf([
        () => begin(talk, board),
        good(at),
        () => done(talk, `L ${talk.next()} 0:${at + 20}:${at + 40}:30`),
        good(at),
        limit(at - 1),
        good(at + 5),
        good(at + 25),
        limit(at + 19),
      ]);
    },
  },
  {
    rule: "A line is taken whole or refused whole",
    look: async (talk, board) => {
      if (board.channels < 2) return null;
      const at = middle(board);
      const bad = talk.next.bind(talk);
      return firstOf([
        () => begin(talk, board),
        () => done(talk, `S ${talk.next()} 0:${at}`),
        async () => {
          const sequence = bad();
          return refused(talk, `S ${sequence} 1:${at}`, sequence, "limit");
        },
        async () => {
          const sequence = bad();
          return refused(talk, `L ${sequence} 1:${at}:${at}:1 ${board.channels}:0:1:1`, sequence, "range");
        },
        async () => {
          const sequence = bad();
          return refused(talk, `S ${sequence} 1:${at}`, sequence, "limit");
        },
        () => driven(talk, [0]),
      ]);
    },
  },
  {
    rule: "A channel that a frame does not name gets no signal",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
        () => done(talk, `S ${talk.next()}`),
        () => driven(talk, []),
      ]),
  },
  {
    rule: "It says which frame all channels put out",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        async () => {
          const sequence = talk.next();
          const first = await done(talk, `S ${sequence} 0:${middle(board)}`);
          if (first) return first;
          await sleep(2.5 * frameMs(board) + 20);
          const next = talk.next();
          return expects(talk, `S ${next} 0:${middle(board)}`, `A ${next} ${sequence}`);
        },
        async () => {
          const sequence = talk.next();
          return expects(talk, `R ${sequence}`, `A ${sequence} ${sequence}`);
        },
      ]),
  },
  {
    rule: "Outputs stay as they are over a greeting",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
        () => driven(talk, [0]),
        () => driven(talk, [0]),
      ]),
  },
  {
    rule: "After a silence it releases, says so once, and wants to be greeted",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `W ${talk.next()} 150 release`),
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
        async () => {
          const lines = await talk.listen(700);
          return lines.join() === "T release"
            ? null
            : `in 0.7 s of silence it says ${said(lines.join(", ") || null)}, not “T release” once`;
        },
        async () => {
          const sequence = talk.next();
          return refused(talk, `S ${sequence} 0:${middle(board)}`, sequence, "order");
        },
        async () => {
          const sequence = talk.next();
          return refused(talk, `W ${sequence} 500 hold`, sequence, "order");
        },
        () => done(talk, `R ${talk.next()}`),
        () => driven(talk, []),
      ]),
  },
  {
    rule: "After a silence it holds where that was said, and goes on",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
        () => done(talk, `W ${talk.next()} 150 hold`),
        async () => {
          const lines = await talk.listen(700);
          return lines.join() === "T hold"
            ? null
            : `in 0.7 s of silence it says ${said(lines.join(", ") || null)}, not “T hold” once`;
        },
        () => done(talk, `S ${talk.next()} 0:${middle(board)}`),
        () => driven(talk, [0]),
      ]),
  },
  {
    rule: "Every line that is done feeds the watchdog; one that is refused does not",
    look: async (talk, board) =>
      firstOf([
        () => begin(talk, board),
        () => done(talk, `W ${talk.next()} 700 hold`),
        async () => {
          for (let times = 0; times < 6; times += 1) {
            await sleep(100);
            const heard = await talk.ask(`S ${talk.next()} 0:${middle(board)}`);
            if (!heard?.startsWith("A ")) return `while it is fed it says ${said(heard)}`;
          }
          for (let times = 0; times < 16; times += 1) {
            talk.say(`S 0 0:${middle(board)}`);
            if ((await talk.listen(100)).includes("T hold")) return null;
          }
          return "refused lines keep it from letting go";
        },
      ]),
  },
];
