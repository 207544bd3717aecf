import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import type { OpenTimes } from '../core/intake/index.ts';
import {
  DEVICES,
  ENTRANCES,
  POSITIONS,
  TRIGGER_KINDS,
  type DeviceClass,
  type Entrance,
  type Position,
  type Showing,
  type TriggerKind,
} from '../core/showing/index.ts';
import { EachPart } from './parts.ts';

const LOCAL_TIME = /^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2})?$/;

export class OpenTimesInput implements OpenTimes {
  @Matches(LOCAL_TIME, { message: 'A time is written like 2026-12-01T09:00.' })
  from!: string;

  @Matches(LOCAL_TIME, { message: 'A time is written like 2026-12-01T09:00.' })
  to!: string;

  @IsString()
  @Length(1, 60)
  zone!: string;
}

/** What shows a form; which of its parts count depends on its kind. */
export class TriggerInput {
  @IsIn(TRIGGER_KINDS)
  kind!: TriggerKind;

  @ValidateIf(({ kind }: TriggerInput) => kind === 'after' || kind === 'idle')
  @IsInt()
  @Min(0)
  @Max(3600)
  seconds!: number;

  @ValidateIf(({ kind }: TriggerInput) => kind === 'scroll')
  @IsInt()
  @Min(1)
  @Max(100)
  percent!: number;

  @ValidateIf(({ kind }: TriggerInput) => kind === 'scroll')
  @IsIn(['down', 'up'])
  direction!: 'down' | 'up';

  @ValidateIf(({ kind }: TriggerInput) => kind === 'leaving')
  @IsIn(['quick', 'late'])
  sensitivity!: 'quick' | 'late';

  @ValidateIf(({ kind }: TriggerInput) => kind === 'click')
  @IsString()
  @Length(1, 200, { message: 'Write what is clicked as a CSS selector, such as .offer or #sign-up.' })
  selector!: string;

  @ValidateIf(({ kind }: TriggerInput) => kind === 'pages')
  @IsInt()
  @Min(1)
  @Max(50)
  count!: number;
}

export class ShowingInput {
  @IsArray()
  @ArrayMaxSize(6)
  @EachPart(() => TriggerInput)
  triggers!: Showing['triggers'];

  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 300, { each: true })
  pages!: string[];

  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 300, { each: true })
  notPages!: string[];

  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 200, { each: true })
  referrers!: string[];

  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 120, { each: true })
  campaigns!: string[];

  @IsIn(['all', 'new', 'returning'])
  visitors!: Showing['visitors'];

  @IsArray()
  @IsIn(DEVICES, { each: true })
  devices!: DeviceClass[];

  @IsInt()
  @Min(0)
  @Max(525_600)
  againMinutes!: number;

  @IsInt()
  @Min(0)
  @Max(3650)
  closedDays!: number;

  @IsBoolean()
  notAfterSent!: boolean;

  @IsInt()
  @Min(0)
  @Max(100)
  priority!: number;

  @IsIn(POSITIONS)
  position!: Position;

  @IsIn(ENTRANCES)
  entrance!: Entrance;

  @IsString()
  @MaxLength(200)
  placeAt!: string;

  @IsIn(['before', 'after'])
  placeSide!: Showing['placeSide'];
}
