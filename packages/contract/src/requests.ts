import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import {
  DRAWN_LIMITS,
  PROP_COLLISIONS,
  SUBSTANCES,
  type PropCollision,
  type Solidity,
  type Substance,
} from '@yesca/core';

/** Identifiers in addresses and bodies: what the server itself hands out. */
export const ID_PATTERN = /^[\w-]{1,64}$/;

/** Versions are counted in 31 bits. */
export const MAX_VERSION = 2_147_483_646;

const CORNER_HINT = 'A corner is a place: three numbers of centimetres.';
const PIVOT_HINT = 'A pivot is a place: three numbers of centimetres, each up to 100,000.';
const NAME_HINT = 'Type a name of 1 to 200 characters.';

export class CreateProject {
  @IsString()
  @Length(1, 200, { message: NAME_HINT })
  name!: string;
}

export class RenameProject extends CreateProject {}

export class CreateMap {
  @Matches(ID_PATTERN)
  projectId!: string;

  @IsString()
  @Length(1, 200, { message: NAME_HINT })
  name!: string;

  /** Key of a template; or give a map file's text in `document`. */
  @IsOptional()
  @IsIn(['empty', 'one-room', 'two-rooms'], { message: 'Choose one of the templates.' })
  template?: string;

  @IsOptional()
  @IsString()
  document?: string;
}

export class SaveMap {
  /** The version the change started from. */
  @IsInt()
  @Min(1)
  @Max(MAX_VERSION)
  baseVersion!: number;

  /** The map file's text. */
  @IsString()
  document!: string;
}

export class ChangeMap {
  @IsOptional()
  @IsString()
  @Length(1, 200, { message: NAME_HINT })
  name?: string;

  @IsOptional()
  @Matches(ID_PATTERN)
  projectId?: string;
}

export class NameRevision {
  @IsString()
  @MaxLength(200)
  name!: string;
}

export class StartBuild {
  @Matches(ID_PATTERN)
  mapId!: string;

  @IsIn(['sketch', 'review', 'final'], { message: 'Choose sketch, review or final.' })
  preset!: 'sketch' | 'review' | 'final';

  /** The map as it is on screen, saved or not. The saved map is built when left out. */
  @IsOptional()
  @IsString()
  document?: string;
}

export class RegionBody {
  @IsString()
  @Length(1, 60, { message: 'Name a region with 1 to 60 characters.' })
  name!: string;

  @IsInt()
  @Min(0)
  x!: number;

  @IsInt()
  @Min(0)
  y!: number;

  @IsInt()
  @Min(1)
  width!: number;

  @IsInt()
  @Min(1)
  height!: number;
}

/** What things of Stock are searched by. */
class Tagged {
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(40, { message: 'Up to 40 tags can be given.' })
  @IsString({ each: true })
  @Length(1, 40, { each: true, message: 'A tag is a word of 1 to 40 characters.' })
  tags?: string[];
}

/** What people read and search by. */
class Described extends Tagged {
  @IsOptional()
  @IsString()
  @Length(1, 200, { message: NAME_HINT })
  label?: string;
}

/** Changes what is known of an imported material; its name in maps stays. */
export class ChangeMaterial extends Described {
  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0.01, { message: 'Type a density above 0: texels a centimetre.' })
  @Max(64, { message: 'The density is at most 64 texels a centimetre.' })
  texelsPerCm?: number;

  @IsOptional()
  @IsIn(SUBSTANCES, { message: 'Choose one of the substances.' })
  substance?: Substance;

  @IsOptional()
  @IsIn(['solid', 'cutOut', 'seeThrough'], { message: 'Choose solid, cut-out or see-through.' })
  solidity?: Solidity;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(256, { message: 'A material has up to 256 regions.' })
  @ValidateNested({ each: true })
  @Type(() => RegionBody)
  regions?: RegionBody[];
}

/** The corners of a convex solid, cm from the pivot of the prop that it is drawn for. */
class DrawnSolidBody {
  @IsArray()
  @ArrayMinSize(4, { message: 'A solid has four corners or more.' })
  @ArrayMaxSize(DRAWN_LIMITS.corners, { message: `A solid has up to ${DRAWN_LIMITS.corners} corners.` })
  @IsArray({ each: true, message: CORNER_HINT })
  @ArrayMinSize(3, { each: true, message: CORNER_HINT })
  @ArrayMaxSize(3, { each: true, message: CORNER_HINT })
  corners!: number[][];
}

/** What is said of an imported prop. */
export class ChangeProp extends Described {
  @IsOptional()
  @IsIn(SUBSTANCES, { message: 'Choose one of the substances.' })
  substance?: Substance;

  @IsOptional()
  @IsIn(PROP_COLLISIONS, { message: 'Choose none, box, hull, hulls or drawn.' })
  collision?: PropCollision;

  /** Solids that it collides as, drawn for it; an empty list takes them away. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(DRAWN_LIMITS.solids, { message: `A prop collides as up to ${DRAWN_LIMITS.solids} brushes.` })
  @ValidateNested({ each: true })
  @Type(() => DrawnSolidBody)
  drawn?: DrawnSolidBody[];

  /** So many times as large as it is now. */
  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0.0001, { message: 'A prop becomes at most 10,000 times smaller at once.' })
  @Max(10_000, { message: 'A prop becomes at most 10,000 times larger at once.' })
  grow?: number;

  /** Which of its places, cm from the pivot that it has now, becomes its pivot. */
  @IsOptional()
  @IsArray()
  @ArrayMinSize(3, { message: PIVOT_HINT })
  @ArrayMaxSize(3, { message: PIVOT_HINT })
  @IsNumber({ allowNaN: false, allowInfinity: false }, { each: true, message: PIVOT_HINT })
  @Min(-100_000, { each: true, message: PIVOT_HINT })
  @Max(100_000, { each: true, message: PIVOT_HINT })
  pivot?: number[];

  @IsOptional()
  @IsString()
  @Matches(ID_PATTERN, { message: 'Choose one of the packs.' })
  pack?: string;
}

/** A part of a map that is kept in Stock: a map file's text with just that. */
export class SaveAssembly extends Tagged {
  @IsString()
  @Length(1, 200, { message: NAME_HINT })
  label!: string;

  @IsString()
  document!: string;
}

/** What is said of an assembly, or what it consists of from then on. */
export class ChangeAssembly extends Described {
  @IsOptional()
  @IsString()
  document?: string;
}

export class NamePack {
  @IsString()
  @Length(1, 200, { message: NAME_HINT })
  name!: string;
}
