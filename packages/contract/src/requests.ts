import { IsIn, IsInt, IsOptional, IsString, Length, Matches, MaxLength, Min } from 'class-validator';

/** Identifiers in addresses and bodies: what the server itself hands out. */
export const ID_PATTERN = /^[\w-]{1,64}$/;

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
