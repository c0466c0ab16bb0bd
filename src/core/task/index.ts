export * from './facts';
export * from './missing';
export * from './verdict';
export * from './needs';
