/** Where in a payload the parts of a membership are, as JSONPaths, where they are not one object; '' for a part that is not there. */
export interface MembershipPaths {
  level: string;
  begins: string;
  ends: string;
}

export const IN_ONE_PLACE: MembershipPaths = { level: '', begins: '', ends: '' };

/** Whether a membership is read out of several places. */
export const isInParts = ({ level, begins, ends }: MembershipPaths): boolean => `${level}${begins}${ends}` !== '';
