export * from './verdict';
export * from './find';
export * from './needs';
