import { ArrayMaxSize, ArrayMinSize, IsArray, Matches, MaxLength } from 'class-validator';
import type { InstallationFinding } from '../core/formats/index.ts';

/** Pages on which a form is to be. */
export class PagesInput {
  @IsArray()
  @ArrayMinSize(1, { message: 'Name at least one page.' })
  @ArrayMaxSize(10, { message: 'At most ten pages at once.' })
  @Matches(/^https?:\/\/[^\s]+$/, { each: true, message: 'Enter whole addresses of pages, from https:// on.' })
  @MaxLength(500, { each: true })
  pages!: string[];
}

/** What was found on a page. */
export interface PageInstallation {
  page: string;
  findings: InstallationFinding[];
  /** When the script last asked from this page's site; null while it never did. */
  heardAt: string | null;
}
