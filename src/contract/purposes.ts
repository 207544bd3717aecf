import { ArrayMaxSize, ArrayMinSize, ArrayUnique, IsArray, IsIn, IsString, Length, Matches } from 'class-validator';
import { CHANNELS, type Channel, type Purpose, type PurposeDraft } from '../core/consent/index.ts';
import type { PublishState } from '../core/states/index.ts';

export class PurposeInput implements PurposeDraft {
  @IsString()
  @Length(1, 80, { message: 'Give it a name, such as "Sky letter".' })
  @Matches(/\S/, { message: 'Give it a name, such as "Sky letter".' })
  name!: string;

  @IsArray()
  @ArrayMaxSize(50, { message: 'At most fifty sentences.' })
  @IsString({ each: true })
  @Length(3, 500, { each: true, message: 'A sentence has between 3 and 500 characters.' })
  wordings!: string[];

  @IsArray()
  @ArrayMinSize(1, { message: 'Choose at least one channel.' })
  @ArrayUnique()
  @IsIn(CHANNELS, { each: true })
  channels!: Channel[];
}

export interface PurposeView extends Purpose {
  updatedAt: string;
  /** The routes that ask for it, as they are live or drafted. */
  routes: { id: string; name: string; state: PublishState }[];
}
