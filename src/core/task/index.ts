export * from './verdict';
export * from './needs';
