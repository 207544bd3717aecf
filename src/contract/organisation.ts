import { ArrayMaxSize, IsArray, IsString, Length } from 'class-validator';

/** By which names people know whoever asks them. */
export class OrganisationInput {
  @IsArray()
  @ArrayMaxSize(3, { message: 'At most three names.' })
  @IsString({ each: true })
  @Length(2, 100, { each: true, message: 'A name has between 2 and 100 characters.' })
  names!: string[];
}

export interface OrganisationView {
  names: string[];
}
