import {
  reflectBefore,
  reflectInRooms,
  removeMood,
  saveMood,
  setStrengths,
  takeMood,
  wireMood,
} from '../edit/index.ts';
import { a } from './args.ts';
import { command } from './command.ts';

const made = ({ doc, entities }: ReturnType<typeof reflectInRooms>) => ({ doc, made: { entities } });

export const lightCommands = {
  /** A probe in each room that has none. */
  'reflection.rooms': command('A reflection probe in each room', {}, (doc) => made(reflectInRooms(doc))),
  /** A probe before each of some faces: windows, water. */
  'reflection.before': command('A reflection probe before faces', { faces: a.faces }, (doc, { faces }) =>
    made(reflectBefore(doc, faces)),
  ),
  /** Candela of lamps, lux of suns, each its own. */
  'light.strengths': command(
    ({ strengths }) =>
      Object.keys(strengths).length === 1 ? 'Change a light’s strength' : 'Change the lights’ strength',
    { strengths: a.numbers },
    (doc, { strengths }) => setStrengths(doc, strengths),
  ),
  /** Keeps how strong all lights are; a mood of that name is replaced. */
  'mood.save': command('Keep a mood', { name: a.name }, (doc, { name }) => saveMood(doc, name)),
  'mood.take': command('Take up a mood', { mood: a.id }, (doc, { mood }) => takeMood(doc, mood)),
  /** In play, the signal lets each light of the mood fade to it. */
  'mood.wire': command(
    'Wire a mood',
    { mood: a.id, from: a.record({ thing: a.id, signal: a.name }) },
    (doc, { mood, from }) => wireMood(doc, mood, from),
  ),
  'mood.remove': command('Remove a mood', { mood: a.id }, (doc, { mood }) => removeMood(doc, mood)),
};
