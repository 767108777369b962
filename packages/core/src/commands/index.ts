export { idsOf, pickedOf, type PickedIds } from './args.ts';
export type { CommandContext, Made, Outcome } from './command.ts';
export {
  call,
  COMMANDS,
  doCommand,
  isRefusal,
  labelOf,
  type Call,
  type CallOptions,
  type CommandArgs,
  type CommandName,
} from './table.ts';
export * from './script.ts';
