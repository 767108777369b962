import type { MapSummary } from '@yesca/contract';
import type { BuildReport, Preset, PropFacts, Region, Solidity, Stage, Substance } from '@yesca/core';
import { doublePrecision, index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';

const when = (name: string) => timestamp(name, { withTimezone: true });

export const projects = pgTable('projects', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  createdAt: when('created_at').notNull().defaultNow(),
  deletedAt: when('deleted_at'),
});

/**
 * `document` is the content address of the map file as it was at `snapshotVersion`; later saves are changes in its revisions. `drawing` is
 * that of its plan.
 */
export const maps = pgTable(
  'maps',
  {
    id: text('id').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    name: text('name').notNull(),
    version: integer('version').notNull(),
    document: text('document').notNull(),
    snapshotVersion: integer('snapshot_version').notNull(),
    drawing: text('drawing'),
    summary: jsonb('summary').$type<MapSummary>().notNull(),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    deletedAt: when('deleted_at'),
  },
  (t) => [index('maps_by_project').on(t.projectId)],
);

/** A save: the whole map file (`document`, a content address), or what it changed (`changes`: JSON, or `blob:` and a content address), or both. */
export const revisions = pgTable(
  'revisions',
  {
    mapId: text('map_id')
      .notNull()
      .references(() => maps.id),
    version: integer('version').notNull(),
    document: text('document'),
    changes: text('changes'),
    name: text('name'),
    savedAt: when('saved_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.mapId, t.version] })],
);

export const builds = pgTable(
  'builds',
  {
    id: text('id').primaryKey(),
    mapId: text('map_id')
      .notNull()
      .references(() => maps.id),
    preset: text('preset').$type<Preset>().notNull(),
    status: text('status').$type<'waiting' | 'running' | 'done' | 'failed' | 'cancelled' | 'interrupted'>().notNull(),
    document: text('document').notNull(),
    level: text('level'),
    ledger: text('ledger'),
    report: jsonb('report').$type<BuildReport>(),
    times: jsonb('times').$type<Partial<Record<Stage, number>>>().notNull().default({}),
    error: text('error'),
    startedAt: when('started_at').notNull().defaultNow(),
    endedAt: when('ended_at'),
  },
  (t) => [index('builds_by_map').on(t.mapId, t.startedAt)],
);

export const packs = pgTable('packs', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  createdAt: when('created_at').notNull().defaultNow(),
});

/** Imported materials. `name` is what faces of maps say; pictures are content addresses; `content` is the hash of the colours as decoded. */
export const materials = pgTable(
  'materials',
  {
    name: text('name').primaryKey(),
    packId: text('pack_id')
      .notNull()
      .references(() => packs.id),
    label: text('label').notNull(),
    tags: jsonb('tags').$type<string[]>().notNull(),
    substance: text('substance').$type<Substance>().notNull(),
    solidity: text('solidity').$type<Solidity>().notNull(),
    width: integer('width').notNull(),
    height: integer('height').notNull(),
    texelsPerCm: doublePrecision('texels_per_cm').notNull(),
    average: text('average').notNull(),
    mask: text('mask'),
    roughness: doublePrecision('roughness').notNull(),
    regions: jsonb('regions').$type<Region[]>().notNull().default([]),
    content: text('content').notNull(),
    albedo: text('albedo').notNull(),
    normal: text('normal'),
    roughnessMap: text('roughness_map'),
    thumb: text('thumb').notNull(),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [index('materials_by_pack').on(t.packId), index('materials_by_content').on(t.content)],
);

/**
 * Imported props. `name` is what things of maps say; the model and its small picture are content addresses; `content` is that of the model
 * as it came.
 */
export const props = pgTable(
  'props',
  {
    name: text('name').primaryKey(),
    packId: text('pack_id')
      .notNull()
      .references(() => packs.id),
    tags: jsonb('tags').$type<string[]>().notNull(),
    facts: jsonb('facts').$type<PropFacts>().notNull(),
    content: text('content').notNull(),
    model: text('model').notNull(),
    thumb: text('thumb').notNull(),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [index('props_by_content').on(t.content), index('props_by_pack').on(t.packId)],
);

/** Parts of maps that are kept to be placed again. `document` and `drawing` are content addresses. */
export const assemblies = pgTable('assemblies', {
  id: text('id').primaryKey(),
  label: text('label').notNull(),
  tags: jsonb('tags').$type<string[]>().notNull().default([]),
  document: text('document').notNull(),
  drawing: text('drawing'),
  summary: jsonb('summary').$type<MapSummary>().notNull(),
  createdAt: when('created_at').notNull().defaultNow(),
});
