/** A notice as the list has it. */
export interface NoticeRow {
  id: number;
  text: string;
  kind: 'information' | 'warning';
  state: 'showing' | 'coming' | 'ended';
  where: string;
  times: string;
  by: string;
  mayEnd: boolean;
  mayCorrect: boolean;
  /** Its start on the site's own clock while that is to come, and its end. */
  from: string | null;
  until: string | null;
}

/** The highest page one may post on. */
export interface NoticePlace {
  id: string;
  name: string;
  /** Whether it stands for the whole website. */
  isWhole: boolean;
  /** Pages on which one may post, and not on all below them. */
  onlyAlone: readonly string[];
}
