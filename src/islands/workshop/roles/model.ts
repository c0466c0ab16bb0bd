export interface RoleRow {
  id: string;
  name: string;
  purpose: string;
  archived: boolean;
  people: string[];
  /** Names of the roles that build on it. */
  under: string[];
  changed: boolean;
  tasks: number;
  tasksThatCan: number;
  surplus: string[];
  problems: string[];
}
/** What is being done with a role, in a dialog. */
export type DoingWithRole =
  | { kind: 'new'; like: string }
  | { kind: 'name'; role: RoleRow }
  | { kind: 'archive'; role: RoleRow }
  | { kind: 'compare'; role: RoleRow }
  | null;
