export {
  Cancelled,
  doDue,
  doJob,
  dueJob,
  keptOr,
  partOf,
  type AnyJob,
  type DueJob,
  type Job,
  type KeptResults,
  type StageControl,
} from './job.ts';
export { doDueOn, doJobOn, serveJobs, type Line, type Thread } from './threads.ts';
export { keepThreads, type KeptThreads } from './kept.ts';
