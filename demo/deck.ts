import type { Card, NumbersQuestion, RecallAnswer, Tolerance } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'

/** What a pilot of the invented estuary keeps in mind, topic by topic: front and back. */
const cards: Record<string, [front: string, back: string][]> = {
  'tide-heights': [
    [
      'What does a height of tide count from?',
      'From chart datum, the level from which the chart gives its depths.',
    ],
    ['Depth of water over a sounding', 'Sounding + height of tide.'],
    [
      'Depth of water over a bank that dries',
      'Height of tide − drying height; less than nothing, and it shows.',
    ],
    [
      'Rule of twelfths',
      'Of the range, hour by hour: $\\tfrac{1}{12}, \\tfrac{2}{12}, \\tfrac{3}{12}, \\tfrac{3}{12}, \\tfrac{2}{12}, \\tfrac{1}{12}$',
    ],
    ['Range of a tide', '$R = h_{HW} - h_{LW}$'],
    ['When do springs come?', 'A day or two after new moon and full moon.'],
    ['Neaps against springs', 'High waters lower, low waters higher.'],
    ['High water at Tarrow Quay', '35 minutes after Saltmere, and 0.4 m lower.'],
  ],
  'tidal-curves': [
    ['Height from the factor of the curve', '$h = h_{LW} + f \\cdot R$'],
    ['Factor from a height that is wanted', '$f = \\dfrac{h - h_{LW}}{R}$'],
    ['Factor three hours after high water at Saltmere', 'about 0.5, half of the range'],
    [
      'Which curve at a range between springs and neaps?',
      'Read both, and take the part between that the range has.',
    ],
    ['From which high water does one count?', 'From the nearest one, before or after.'],
  ],
  'stream-atlas': [
    ['Sets of a stream are named …', '… by where it goes to; winds by where they come from.'],
    ['Rate at a range between springs and neaps', '$r = r_N + (r_S - r_N)\\dfrac{R - R_N}{R_S - R_N}$'],
    [
      'Which hour of the atlas at 07:40, high water 06:10?',
      'The hour that begins half an hour before it: 1 to 2 after, so the second.',
    ],
    ['Slack water off Pellow Point', 'About an hour before high water, and five hours after it.'],
    ['Figures on an arrow of the atlas', 'Neaps first, springs behind, in tenths of a knot.'],
  ],
  eddies: [
    [
      'Where does a counter-stream run?',
      'Inshore, in the lee of a point, from half an hour after the main stream sets in.',
    ],
    ['How does an eddy show?', 'A seam of foam and smooth water, and leaves that go round.'],
    ['Passing a seam', 'Slow down, and keep her bow a little up-stream until the helm answers.'],
    [
      'Eddy under the Lode bridge',
      'On the ebb, from the second pier to the quay; at springs as wide as the arch.',
    ],
  ],
  surge: [
    ['What does low pressure do to the tide?', 'It stands higher: 1 cm for each hectopascal under 1013.'],
    ['What does a long onshore wind do?', 'It holds the water in: higher tides, and later.'],
    ['Spate: what changes first?', 'The ebb runs longer and harder; low water comes late and stands high.'],
    [
      'Spate mark on the gauge at Upper Lode',
      'Over 2.4 m no passage up-river without a second hand forward.',
    ],
  ],
  'chart-symbols': [
    ['A figure with a line under it', 'A drying height: so much stands out at datum.'],
    ['A cross with a dot in each corner', 'A rock that is awash at datum.'],
    ['Dotted line round a figure', 'A danger to keep clear of, with its least depth.'],
    ['M, S, Sh, R beside a sounding', 'Mud, sand, shell, rock.'],
    ['Heights of bridges on the chart', 'Above the mean high water of springs.'],
  ],
  'course-offset': [
    [
      'The three sides of the stream triangle',
      'Set and rate; course and speed through the water; course and speed made good.',
    ],
    ['Correction for a stream abeam', '$\\sin\\alpha = \\dfrac{r}{v}$, into the stream.'],
    ['Speed made good with the stream abeam', '$\\sqrt{v^2 - r^2}$'],
    ['Signs: from compass to true', 'Add what is east, take away what is west.'],
    [
      'Where does the triangle begin?',
      'With the stream, for the time that the leg takes, from the place that one leaves.',
    ],
  ],
  'under-keel': [
    ['Under-keel clearance', 'sounding + height of tide − draught − squat'],
    ['Least clearance under way in the Narrows', '0.6 m, and a tenth of the draught where it is more.'],
    ['Squat, near enough', 'Grows with the square of the speed: half of the speed, a quarter of the squat.'],
    ['Height of tide that is needed', 'clearance + draught + squat − sounding'],
  ],
  'passage-plan': [
    ['The four parts of a passage plan', 'Find out, plan, go, keep watch on it.'],
    ['Point of no return', 'Where it becomes longer back than on: written down before one sails.'],
    ['Who signs the plan?', 'Whoever stands the first watch, and the pilot.'],
  ],
  anchorages: [
    ['Chain, in calm weather', 'Four times the greatest depth; six times in wind.'],
    ['Swinging room', '$\\sqrt{c^2 - d^2} + L$: chain, depth, length of the boat.'],
    ['Ground that holds worst', 'Rock and weed; clay holds best.'],
    ['Before one turns in', 'Two marks in line abeam, and the depth at low water.'],
  ],
  lights: [
    ['Lights of a ferry under way', 'A white one over a green one, all round, besides her side lights.'],
    ['Lights of a dredger at work', 'Two red on the side that is blocked, two green on the free one.'],
    ['A boat at anchor, shorter than 20 m', 'One white, all round, forward where it is seen best.'],
    ['Side lights are seen over …', '… 112.5 degrees each, from ahead to abaft the beam.'],
    ['Towing on the Lode', 'Two white ahead, one over the other; the tow a yellow one astern.'],
  ],
  buoyage: [
    ['Left bank of the Lode, seen up-river', 'Square topmark, odd numbers.'],
    ['Right bank of the Lode, seen up-river', 'Cone, even numbers.'],
    ['A buoy with two balls', 'A danger of its own: water on every side of it.'],
    ['Middle ground', 'Bands across; the main channel is on the side of the longer light.'],
    ['New wreck', 'Two of the same buoys, one of them with a light that goes twice as fast.'],
  ],
  'sound-signals': [
    ['Fog, under way with an engine', 'One long, at least every two minutes.'],
    ['Fog, under way and stopped', 'Two long with two seconds between.'],
    ['Fog, at anchor', 'The bell for five seconds, every minute.'],
    ['Three short', 'My engine goes astern.'],
  ],
  'flag-hoists': [
    ['Blue over white at the signal mast', 'The lock is shut for an hour and more.'],
    ['Yellow by itself', 'Wait at the buoys; an answer follows.'],
    ['Red pennant under any hoist', 'It holds for the upper harbour, too.'],
  ],
  'lock-signals': [
    ['Two red, one over the other', 'The lock does not work.'],
    ['Green and white', 'Go in, the far gate is open as well: mind the stream.'],
    ['Bridge: one long, one short', 'Please open. The same again is the answer, five short a refusal.'],
  ],
}

/** Where it stands in the Companion and in the Signals, which may be used: what, chapter, place, seconds. */
const places: [topic: string, what: string, section: string, exact: string, seconds: number][] = [
  ['tide-heights', 'Differences of the secondary ports', 'Heights of tide', 'table 1.4, page 18', 30],
  ['tide-heights', 'Heights of the mean springs and neaps', 'Heights of tide', 'table 1.1, page 6', 25],
  ['tidal-curves', 'The curve of Saltmere', 'Working the curve', 'figure 2.2, page 41', 20],
  [
    'tidal-curves',
    'An example worked backwards, from a height to a time',
    'Working the curve',
    'page 52',
    40,
  ],
  ['stream-atlas', 'Station D off Pellow Point', 'Streams and the atlas', 'page 74', 30],
  [
    'eddies',
    'Times of the counter-stream at the Lode bridge',
    'Streams and the atlas',
    'table 3.6, page 97',
    40,
  ],
  ['surge', 'Corrections for pressure', 'Spate and surge', 'table 4.1, page 109', 30],
  ['chart-symbols', 'All signs of dangers', 'Chart work', 'figure 5.1, page 131', 20],
  ['under-keel', 'Squat by speed and depth', 'Chart work', 'table 5.8, page 177', 35],
  ['passage-plan', 'The form of a passage plan', 'Passages and anchorages', 'page 195', 30],
  ['anchorages', 'Holding ground of the anchorages', 'Passages and anchorages', 'table 6.3, page 224', 35],
  ['lights', 'Lights of dredgers and divers', 'Lights', 'figure 7.5, page 262', 30],
  ['buoyage', 'Numbers of the buoys above the bridge', 'Buoys and beacons', 'table 8.2, page 301', 35],
  ['flag-hoists', 'Hoists that begin with blue', 'Flag hoists explained', 'page 44', 30],
  ['lock-signals', 'Signals of the Upper Lode lock at night', 'Locks and bridges', 'page 12', 25],
  ['sound-signals', 'What a tow sounds in fog', 'In fog', 'page 83', 30],
]

type Question = [
  topic: string,
  text: string,
  numbers: string,
  formula: string,
  unit: string,
  tolerance: Tolerance,
  slips: [formula: string, name: string][],
  worked: string,
]
const off = (within: number): Tolerance => ({ kind: 'absolute', within })
const share = (within: number): Tolerance => ({ kind: 'relative', within })
const questions: Question[] = [
  [
    'tide-heights',
    'High water stands at {h} m, low water at {l} m. How far has it fallen in the first two hours, by the rule of twelfths?',
    'h 4.6..6.2 step 0.2; l 0.6..1.4 step 0.2',
    '(h - l) * 3 / 12',
    'm',
    off(0.05),
    [
      ['(h - l) * 2 / 12', 'only the second hour'],
      ['h * 3 / 12', 'the height in place of the range'],
    ],
    'The range is {= h - l} m. One twelfth and two twelfths are three: {= (h - l) * 3 / 12} m.',
  ],
  [
    'tide-heights',
    'A bank dries {d} m. The tide stands at {h} m. How much water is over it?',
    'd 0.6..2.6 step 0.2; h 3.2..5.6 step 0.2',
    'h - d',
    'm',
    off(0.05),
    [['h + d', 'a drying height added like a sounding']],
    '{h} m less {d} m are {= h - d} m.',
  ],
  [
    'tidal-curves',
    'Low water {l} m, range {r} m, factor {f}. What is the height of the tide?',
    'l 0.6..1.6 step 0.2; r 3.2..5.2 step 0.4; f 0.15..0.9 step 0.05',
    'l + f * r',
    'm',
    off(0.05),
    [
      ['f * r', 'low water forgotten'],
      ['l + (1 - f) * r', 'the factor from the wrong end'],
    ],
    '{f} of {r} m are {= f * r} m, over low water {= l + f * r} m.',
  ],
  [
    'tidal-curves',
    'You need a height of {h} m. Low water is {l} m, the range {r} m. Which factor must the curve have?',
    'h 2.6..3.8 step 0.2; l 0.6..1.2 step 0.2; r 4.2..5 step 0.2',
    '(h - l) / r',
    '',
    off(0.01),
    [['h / r', 'low water forgotten']],
    '({h} − {l}) / {r} = {= (h - l) / r}',
  ],
  [
    'stream-atlas',
    'Springs run {s} kn at a range of 5.4 m, neaps {n} kn at 2.6 m. Today the range is {r} m. What is the rate?',
    's 2.2..3.6 step 0.2; n 0.4..0.8 step 0.2; r 3..3.6 step 0.2',
    'n + (s - n) * (r - 2.6) / 2.8',
    'kn',
    off(0.05),
    [
      ['s * r / 5.4', 'in proportion to the range alone'],
      ['(s + n) / 2', 'the mean, whatever the range'],
    ],
    'Of the {= s - n} kn between them, {= (r - 2.6) / 2.8} : {= n + (s - n) * (r - 2.6) / 2.8} kn.',
  ],
  [
    'course-offset',
    'You make {v} kn through the water; a stream of {r} kn sets across. By how many degrees do you steer into it?',
    'v 5..9 step 0.5; r 0.8..2.4 step 0.2',
    'asin(r / v) / deg',
    '°',
    off(1),
    [
      ['acos(r / v) / deg', 'the angle on the other side'],
      ['asin(r / v)', 'in radians'],
    ],
    'sin of it is {r} / {v} = {= r / v}, so {= asin(r / v) / deg}°.',
  ],
  [
    'course-offset',
    'A boat makes {v} kn through the water, held up into a stream of {r} kn across. What speed does she make good?',
    'v 5..9 step 0.5; r 1.6..3.2 step 0.2',
    'sqrt(v ^ 2 - r ^ 2)',
    'kn',
    share(0.01),
    [
      ['sqrt(v ^ 2 + r ^ 2)', 'added in place of taken away'],
      ['v - r', 'as if the stream came from ahead'],
    ],
    'The root of {v}² − {r}² is {= sqrt(v ^ 2 - r ^ 2)} kn.',
  ],
  [
    'under-keel',
    'Sounding {s} m, height of tide {h} m, draught {d} m, squat {q} m. What is the under-keel clearance?',
    's 0.6..2 step 0.2; h 3..4.6 step 0.2; d 1.8..2.8 step 0.2; q 0.2..0.4 step 0.1',
    's + h - d - q',
    'm',
    off(0.05),
    [
      ['s + h - d', 'squat forgotten'],
      ['h - s - d - q', 'the sounding taken away'],
    ],
    '{s} + {h} − {d} − {q} = {= s + h - d - q} m',
  ],
  [
    'under-keel',
    'At {a} kn she squats {q} m. How much at {b} kn?',
    'a 4..6 step 1; q 0.2..0.4 step 0.1; b 7..9 step 1',
    'q * (b / a) ^ 2',
    'm',
    share(0.03),
    [['q * b / a', 'in proportion to the speed, not to its square']],
    '({b} / {a})² times {q} m: {= q * (b / a) ^ 2} m.',
  ],
  [
    'anchorages',
    'In {d} m of water you give {c} m of chain; the boat is {l} m long. How much room does she swing in, from the anchor to her stern?',
    'd 5..9 step 1; c 30..50 step 5; l 9..14 step 1',
    'sqrt(c ^ 2 - d ^ 2) + l',
    'm',
    share(0.01),
    [
      ['c + d + l', 'depth and chain added'],
      ['sqrt(c ^ 2 - d ^ 2)', 'her own length forgotten'],
    ],
    'The root of {c}² − {d}² is {= sqrt(c ^ 2 - d ^ 2)} m, and her length: {= sqrt(c ^ 2 - d ^ 2) + l} m.',
  ],
  [
    'surge',
    'The glass stands at {p} hPa. By how much does the tide stand higher than in the tables?',
    'p 968..1005 step 1',
    '(1013 - p) / 100',
    'm',
    off(0.02),
    [['1013 - p', 'centimetres for metres']],
    '1013 − {p} = {= 1013 - p} hPa, a centimetre each: {= (1013 - p) / 100} m.',
  ],
  [
    'passage-plan',
    'It is {d} miles to the next shelter. You make {v} kn, and {r} kn of stream are with you. How many minutes does it take?',
    'd 6..14 step 0.5; v 5..7 step 0.5; r 0.6..2 step 0.2',
    '60 * d / (v + r)',
    'min',
    share(0.02),
    [
      ['60 * d / v', 'the stream forgotten'],
      ['60 * d / (v - r)', 'the stream taken as against you'],
      ['d / (v + r)', 'hours for minutes'],
    ],
    '{d} miles at {= v + r} kn are {= 60 * d / (v + r)} minutes.',
  ],
]

const numbersIn = (text: string): NumbersQuestion['numbers'] =>
  text.split('; ').map((one) => {
    const [, name = '', low, high, step] = /^(\w+) ([\d.]+?)\.\.([\d.]+) step ([\d.]+)$/.exec(one) ?? []
    return { name, low: Number(low), high: Number(high), step: Number(step) }
  })

/** The deck of a candidate; `idOf` gives each card its id, `added` the day on which it was written. */
export function deck(idOf: (n: number) => string, added: (n: number) => string): Card[] {
  const made = [
    ...Object.entries(cards).flatMap(([topic, own]) =>
      own.map(([front, back]) => ({ kind: 'card' as const, topic, front, back })),
    ),
    ...places.map(([topic, front, section, exact, seconds]) => ({
      kind: 'place' as const,
      topic,
      front: `Where is it? ${front}`,
      section,
      exact,
      seconds,
    })),
    ...questions.map(([topic, text, numbers, formula, unit, tolerance, slips, worked]) => ({
      kind: 'numbers' as const,
      topic,
      question: {
        text,
        numbers: numbersIn(numbers),
        formula,
        ...(unit && { unit }),
        tolerance,
        slips: slips.map(([slip, name]) => ({ formula: slip, name })),
        worked,
      },
    })),
  ]
  return made.map((card, at): Card => ({ ...card, id: idOf(at + 1), added: added(at) }))
}

/** How often, of days on which there is time, something is done for it. */
const keeps = 0.78
/** Cards that are begun on a day, and answers that one takes on at most. */
const begunADay = 3
const mostADay = 26

/** What was answered from `began` until the day before `today`: what comes back is asked later each time, what does not sooner. */
export function answersTo(
  deckOf: readonly Card[],
  began: string,
  today: string,
  idOf: (n: number) => string,
  random: () => number,
): RecallAnswer[] {
  const answers: RecallAnswer[] = []
  const due: { card: Card; day: number; wait: number; hard: number }[] = []
  const fresh = [...deckOf]
  for (let day = dayNumber(began) + 1; day < dayNumber(today); day++) {
    if (random() > keeps) continue
    for (let some = 0; some < begunADay && fresh.length; some++)
      // One in ten never stays.
      due.push({ card: fresh.shift()!, day, wait: 1, hard: random() < 0.1 ? 0.45 : 0.06 + 0.12 * random() })
    const own = due.filter((one) => one.day <= day).slice(0, mostADay)
    own.forEach((one, at) => {
      const back = random() > one.hard
      const sure = random()
      const long = { card: 7, place: 18, numbers: 80 }[one.card.kind]
      answers.push({
        id: idOf(answers.length + 1),
        card: one.card.id,
        on: dateOf(day),
        at: `${dateOf(day)}T07:${String(at).padStart(2, '0')}:00.000Z`,
        grade: back ? (one.card.kind === 'numbers' ? 3 : sure < 0.15 ? 2 : sure < 0.8 ? 3 : 4) : 1,
        seconds: Math.round(long * (0.6 + random() * (back ? 0.8 : 2)) * 10) / 10,
      })
      one.wait = back ? Math.max(2, Math.round(one.wait * (1.9 + random()))) : 1
      one.day = day + one.wait
    })
  }
  return answers
}
