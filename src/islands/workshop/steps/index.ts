import { AccessStep } from './AccessStep';
import { DashboardStep } from './DashboardStep';
import { MenuStep } from './MenuStep';
import { ScreensStep } from './ScreensStep';
import { TasksStep } from './TasksStep';
import { ToolbarStep } from './ToolbarStep';
import { ToursStep } from './ToursStep';
import { WalkStep } from './WalkStep';
import { WordsStep } from './WordsStep';

/** The steps of preparing a room, in their order. */
export const STEPS = [
  {
    id: 'tasks',
    name: 'Tasks',
    title: (role: string) => `What must “${role}” get done?`,
    says: 'Tick the jobs, not the rights. What they need follows from them.',
    Work: TasksStep,
  },
  {
    id: 'access',
    name: 'Access',
    title: (role: string) => `What may “${role}” do, and where?`,
    says: 'The least that the tasks need. What comes from another role stands in a dashed frame.',
    Work: AccessStep,
  },
  {
    id: 'menu',
    name: 'Menu',
    title: (role: string) => `Which doors are in the room of “${role}”?`,
    says: 'Bigger rooms hold more of this role’s tasks. Choose a room to open, close or put it away.',
    Work: MenuStep,
  },
  {
    id: 'toolbar',
    name: 'Toolbar',
    title: (role: string) => `What does “${role}” write with, and where?`,
    says: 'The toolbar they get in every text they may write in. The fewer tools, the less can go wrong.',
    Work: ToolbarStep,
  },
  {
    id: 'dashboard',
    name: 'Dashboard',
    title: (role: string) => `What stands on Today for “${role}”?`,
    says: 'Below the task cards. Drag by the dots, or press Space on them and use the arrow keys; press a name to set it.',
    Work: DashboardStep,
  },
  {
    id: 'screens',
    name: 'Edit screens',
    title: (role: string) => `What is on the edit screens of “${role}”?`,
    says: 'The screen they get, smaller. Drag to another place, press a name to close, hide, lock or rename it.',
    Work: ScreensStep,
  },
  {
    id: 'words',
    name: 'Words',
    title: (role: string) => `What does the office say to “${role}”?`,
    says: 'A few sentences of your own on Today, behind a door, or on an edit screen, where they are needed.',
    Work: WordsStep,
  },
  {
    id: 'tours',
    name: 'Tours',
    title: (role: string) => `How is “${role}” shown the way?`,
    says: 'A tour for every ticked task, made from the screens. Put it in your own words.',
    Work: ToursStep,
  },
  {
    id: 'walk',
    name: 'Walk through',
    title: (role: string) => `Does the room of “${role}” work?`,
    says: 'Step in and try each task before anybody else has to.',
    Work: WalkStep,
  },
] as const;
export type StepId = (typeof STEPS)[number]['id'];
