/**
 * Everything that is refused or fails as expected: a code, its kind, and the sentence for the person in front of it, with
 * what helps as its second part. `{name}` stands for what the one who refuses gives along. All sentences of refusals
 * stand here, so that they can be read, and translated, in one place.
 */

/** Kinds of refusals: HTTP status and title (RFC 9457, RFC 9110). */
export const KINDS = {
  'not-signed-in': [401, 'Not signed in'],
  'wrong-sign-in': [401, 'Sign-in did not work'],
  refused: [403, 'Not in your room'],
  'foreign-request': [403, 'Request from elsewhere'],
  'tool-missing': [403, 'Made with a tool you do not have'],
  'not-found': [404, 'Not there'],
  conflict: [409, 'Somebody else was here'],
  'already-done': [409, 'Already done'],
  'bad-input': [422, 'Something does not fit'],
  'too-large': [413, 'Too large'],
  'too-many': [429, 'Too many tries'],
  misdirected: [421, 'Asked by another name'],
  broken: [500, 'Something went wrong'],
  'database-away': [503, 'Back in a moment'],
} as const;
export type Kind = keyof typeof KINDS;

type Sentence = readonly [kind: Kind, sentence: string, remedy?: string];

export const REFUSALS = {
  // Requests as such.
  'not-signed-in': ['not-signed-in', 'You are no longer signed in.', 'Sign in again; what you typed is kept.'],
  'foreign-request': ['foreign-request', 'This request did not come from this site, so nothing was done.'],
  'unknown-host': [
    'misdirected',
    'This website does not know the name it was asked by.',
    'Whoever runs it can set it: ./safe-room start --origin.',
  ],
  'not-there': ['not-found', '{what} is not there.', 'It may have been removed, or the address is incomplete.'],
  'body-too-large': ['too-large', 'That is more than can be kept at once (2 MB).'],
  'nested-too-deep': ['bad-input', 'This is nested too deep to be kept.'],
  'not-json-type': ['bad-input', 'Send JSON, with content type application/json.'],
  'not-json': ['bad-input', 'The request is not valid JSON.'],
  'not-csv': ['bad-input', 'This is not a CSV file: {fault}.'],
  'columns-unnamed': ['bad-input', 'The first line must name the columns: {columns}.'],
  'columns-missing': ['bad-input', 'The first line must name the columns: {columns}. Missing: {missing}.'],
  'body-faults': ['bad-input', '{faults}'],
  'nothing-sent': ['bad-input', 'Nothing was sent.'],
  'key-used': [
    'bad-input',
    'Something else was sent under this key before, so nothing was done.',
    'Send it under a key of its own.',
  ],
  'database-away': ['database-away', 'The database is starting again.', 'Nothing was lost; try again in a moment.'],
  broken: ['broken', 'Something went wrong, and nothing was lost.', 'Tell the keyholder this number: {number}.'],

  // Signing in, passwords, links.
  'mail-or-password': [
    'wrong-sign-in',
    'Mail address and password do not fit together.',
    'Look for a typing error; capitals count in the password.',
  ],
  'tried-too-often': [
    'too-many',
    'That was tried too often.',
    'Wait {minutes}, or ask the keyholder for a new password.',
  ],
  'many-sign-in': ['too-many', 'Too many people sign in at this moment.', 'Try again in a few seconds.'],
  'password-wrong': ['bad-input', 'This is not your password now.', 'Look for a typing error; capitals count.'],
  'password-same': ['bad-input', 'This is the password you have.', 'Choose another.'],
  'password-weak': [
    'bad-input',
    'This password is too easy to guess.',
    'Take a few words that have nothing to do with each other, like a boat, a colour and a dish.',
  ],
  'link-used': ['refused', 'This link was used already or is too old.', 'Ask the keyholder for a new one.'],
  'first-link-used': ['refused', 'This link was used already or is too old.', 'Start Safe Room again for a new one.'],
  'keyholder-there': ['refused', 'This website has a keyholder already.', 'Ask them for a way in.'],
  'account-paused': ['refused', 'This account is paused.', 'Ask the keyholder about it.'],

  // Who may do what, and give it to whom.
  'not-yours': ['refused', '{why}'],
  'own-access': ['refused', 'You cannot change what you may do yourself.', 'Ask a keyholder.'],
  'keyholder-only': ['refused', 'Only a keyholder can change a keyholder.'],
  'gives-more': ['refused', 'This would hand out more than you have yourself: {what}.', 'Ask a keyholder.'],
  'may-do-more': ['refused', '{person} may do more than you: {what}.', 'Ask a keyholder.'],
  'room-beyond': [
    'refused',
    'In this room more can be done than you may yourself: {what}.',
    'Ask a keyholder to try it.',
  ],
  'role-not-held': ['bad-input', '{person} does not hold the role “{role}”.'],
  'role-not-in-force': ['bad-input', 'There is no role “{role}” in force.'],

  // People and what they hold.
  'roles-faulty': ['bad-input', '{faults}'],
  'role-archived': ['bad-input', 'The role “{role}” is archived; nobody can be given it.'],
  'role-ends-first': ['bad-input', '“{role}” would end before it begins.'],
  'role-twice': ['bad-input', '“{role}” stands there twice.'],
  'roles-apart': ['bad-input', '“{role}” and “{other}” are kept apart: nobody may hold both, whatever the dates.'],
  'no-keyholder': ['bad-input', 'Then nobody could look after the website: there must always be an active keyholder.'],
  'no-keyholder-then': [
    'bad-input',
    'Then there would be no keyholder from {day} {end}.',
    'There must always be an active one.',
  ],
  'person-roles-moved': [
    'conflict',
    'What {person} holds was changed since you opened this, so nothing was overwritten.',
    'Load the screen again to see it.',
  ],
  'person-moved': [
    'conflict',
    '{person} was changed since you opened this, so nothing was overwritten.',
    'Load the screen again to see it.',
  ],
  'pause-self': ['refused', 'You cannot pause your own account: you would be locked out.'],
  'paused-already': ['already-done', '{person} is paused already.'],
  'not-paused': ['already-done', '{person} is not paused.'],
  'mail-taken': ['bad-input', '{person} has this mail address already.'],
  'branch-gone': ['bad-input', 'This page is not there any more.', 'Choose another.'],
  'same-role': ['bad-input', 'Choose another role.'],
  'invite-paused': ['bad-input', '{person} is paused.', 'Let them work again first.'],
  'not-a-day': ['bad-input', '“{text}” is not a day.', 'Write it like 2026-11-25.'],
  'nobody-in-file': ['bad-input', 'There is nobody in this file below the first line.'],
  'file-too-long': ['bad-input', 'These are {lines} lines; at most 2000 go in one file.'],
  'lines-faulty': ['bad-input', '{lines}, so nobody was added.'],

  // The plan, its releases and its files.
  'plan-moved': [
    'conflict',
    'The plan has moved on since you opened it, so nothing was overwritten.{by}',
    'You now see the newest plan; make your change again if it is still wanted.',
  ],
  'roles-held': ['bad-input', '{told}', 'Give them other roles first.'],
  'locks-out': [
    'bad-input',
    'Then {when} no keyholder could prepare rooms, step in, go live and look after people.',
    'Somebody must always be able to.',
  ],
  'operation-impossible': ['bad-input', '{why}'],
  'nothing-to-undo': ['already-done', 'There is nothing of yours left to undo here.'],
  'widget-stays': [
    'refused',
    'This widget stays as it was prepared.',
    'Whoever prepares rooms can leave it free to be moved or put away.',
  ],
  'favourites-full': ['bad-input', 'There is room for twelve favourites. Take one away first.'],
  'preference-fixed': ['refused', 'This stays as it was prepared for everybody.'],
  'nothing-to-redo': ['already-done', 'There is nothing to redo.'],
  'changed-since': [
    'conflict',
    'This was changed again since: {changes}.',
    'Taking yours back would take that back, too. Nothing was changed.',
  ],
  'built-upon': ['bad-input', 'Other changes build on this one: {why}.', 'Take those back first.'],
  'release-gives-more': [
    'refused',
    'This would give {person} more than you have yourself: {what}.',
    'Ask a keyholder to make it go live.',
  ],
  'needs-others': ['bad-input', 'These cannot go live without others: {why}.', 'Choose what they build on, too.'],
  'nothing-waits': ['already-done', 'Nothing is waiting to go live: the prepared plan is the one in force.'],
  'no-release': ['not-found', 'There is no release {number}.'],
  'release-in-force': ['already-done', 'Release {number} says what is in force already.'],
  'plan-file-faulty': ['bad-input', 'The file cannot be used as it is: {faults} in it.'],
  'plan-file-same': ['already-done', 'The file says what is prepared already; nothing to do.'],

  // The tree of pages and their addresses.
  'address-taken': ['bad-input', '{why}'],
  'first-page-stays': ['bad-input', 'The first page of the website stays where it is.'],
  'first-page-copied': ['bad-input', 'The first page of the website cannot be copied: there is only one.'],
  'first-page-retired': ['bad-input', 'The first page of the website cannot be {what}.'],
  'below-itself': ['bad-input', 'A page cannot lie below itself.'],
  'no-layout': ['bad-input', 'There is no layout “{layout}”.', 'Choose a layout.'],
  'outline-faulty': ['bad-input', 'Line {line}: {why}'],
  'goes-along': [
    'refused',
    '{page} would go along, and that one is not yours to change in this way.',
    'Ask the keyholder if you need to.',
  ],
  'shown-already': ['already-done', 'It is shown already.'],
  'left-out-already': ['already-done', 'It is left out already.'],
  'not-online': ['already-done', 'Visitors do not see {thing}, so there is nothing to take down.'],
  'not-taken-down': ['already-done', '{thing} was not taken down, or it is back already.'],
  'back-already': ['already-done', 'It is back already.'],
  'parent-deleted': ['bad-input', 'The page it lay below is deleted, too.', 'Bring that one back first.'],

  // Writing, second looks, publishing.
  'changed-by': [
    'conflict',
    '{person} changed {thing} while you had it open.',
    'Nothing was overwritten: both versions are shown, and you choose.',
  ],
  'sent-meanwhile': [
    'conflict',
    '{thing} was sent or published by somebody else while you had it open.',
    'Nothing was overwritten: both versions are shown, and you choose.',
  ],
  'content-faulty': ['bad-input', '{faults}'],
  'field-locked': ['refused', '“{field}” is locked: {reason}'],
  'field-hidden': [
    'refused',
    '“{field}” is not on your edit screen, so it stays as it is.',
    'Ask whoever prepares rooms if you need it.',
  ],
  'panel-hidden': ['refused', '“{panel}” is not on your edit screen.', 'Ask whoever prepares rooms if you need it.'],
  'choice-not-offered': ['refused', 'What was chosen for “{field}” is not among what your edit screen offers.'],
  'fields-not-yours': ['refused', '{fields} not yours to change here.{rest}', 'Ask the keyholder if you need to.'],
  'picture-not-yours': [
    'bad-input',
    '{field}: you may not choose among all pictures, only those {thing} had before.',
    'Ask the keyholder if you need another.',
  ],
  'author-unknown': ['bad-input', 'This author is nobody of this website.'],
  'layout-not-yours': ['bad-input', 'You may not use the layout “{layout}” here.'],
  'layout-gives-more': [
    'bad-input',
    'With the layout “{layout}” you could do more with this page than now.',
    'Somebody else has to change it.',
  ],
  'authorship-gives-you-more': [
    'bad-input',
    'As its author you could do more with this page than now.',
    'Somebody else has to change it.',
  ],
  'authorship-gives-them-more': [
    'bad-input',
    'As its author they could do more with this page than you.',
    'Somebody else has to change it.',
  ],
  'tools-missing': [
    'tool-missing',
    'This text was changed in a way that needs {tools}, which your toolbar does not have.',
    'What was there before is kept as it is; ask the keyholder if you need the tool.',
  ],
  'copy-needs-tools': [
    'tool-missing',
    'What would be copied holds what is made with {tools}, which your toolbar does not have there.',
    'Somebody with these tools has to copy it.',
  ],
  'takes-away': [
    'tool-missing',
    'This would change {what} or take it away, which has to stay as it is here, so it was not saved.',
    'Load the page again to get it back. You can ask for a change in the text itself.',
  ],
  'part-unknown': ['bad-input', 'There is no such page a picture could belong to.'],
  'wish-unknown': ['bad-input', 'There is no such text here to ask for a change of.'],
  'compare-too-long': [
    'too-large',
    'Comparing these two versions takes too long at this moment.',
    'Nothing was lost; try again in a minute.',
  ],
  'nothing-differs': ['already-done', 'Nothing differs from what visitors see, so there is nothing to send.'],
  'no-draft': [
    'already-done',
    'There is no draft of {thing}: nothing has changed since the last version, or it was sent already.',
  ],
  'only-a-draft': [
    'bad-input',
    '{thing} was never anything but this draft, so there is nothing to go back to.',
    'Delete it if it is not needed.',
  ],
  'reviewer-cannot': [
    'bad-input',
    'Whoever you asked cannot give this a second look.',
    'Choose somebody else, or nobody by name.',
  ],
  'note-wanted': ['bad-input', 'Say in a sentence what you changed; this website asks for it.'],
  'newer-sent': ['already-done', 'The writer has sent a newer version; look at that one.'],
  'decided-already': ['already-done', 'Somebody has already decided on this draft.'],
  'word-wanted': ['bad-input', 'Say what should be different, so that the writer need not guess.'],
  'remark-gone': ['not-found', 'The remark you answer is not there any more.'],
  'checks-stop': ['bad-input', 'This website wants these set right first: {findings}'],
  'picture-gone': ['not-found', 'This picture is not there any more.'],

  // Duties.
  'duty-moved': [
    'conflict',
    'Somebody changed this duty since you opened it, so nothing was overwritten.',
    'Load the screen again to see it.',
  ],
  'duty-not-yours': ['refused', 'It is not your turn.', 'Whose turn it is, or who gave it, can tick it off.'],
  'duty-over': ['already-done', 'This was ticked off already.'],
  'duty-not-over': ['already-done', 'This is not ticked off.'],
  'duty-own': ['already-done', 'You gave this to yourself.', 'Hand it over to somebody else instead.'],
  'person-cannot': ['bad-input', 'Choose somebody who can come in and whom you may see.'],
  // What is planned for a time, and notices.
  'no-time': ['bad-input', 'Give a day and an hour.'],
  'hour-skipped': [
    'bad-input',
    'There is no {hour} on {day}: the clocks go on in that hour.',
    'Choose an earlier or a later one.',
  ],
  'hour-past': ['bad-input', 'That hour has passed already.', 'Choose one that is still to come.'],
  'nothing-planned': ['already-done', 'Nothing is planned for this page any more.'],
  'deleted-before': ['not-found', 'It was deleted before its time came.'],
  'version-gone': ['not-found', 'What was to be published is not there any more.'],
  'planner-gone': ['refused', 'Whoever planned this is not there any more.'],
  'planner-paused': ['refused', '{person}, who planned this, is paused.'],
  'planner-may-not-publish': ['refused', '{person}, who planned this, may not publish it any more.'],
  'planner-may-not-retire': ['refused', '{person}, who planned this, may not take it and all below it down any more.'],
  'ends-before': ['bad-input', 'The end lies before the start; nobody would see this notice.'],
  'ends-past': ['bad-input', 'The end is already past; nobody would see this notice.'],
  'notice-ended': ['already-done', 'This notice has already ended.'],
  'notice-over': ['already-done', 'This notice has already ended.', 'Post a new one.'],
  'notice-moved': [
    'conflict',
    'Somebody else set it right meanwhile: “{text}”',
    'Load the screen again to go on from there.',
  ],
  'notice-same': ['already-done', 'Nothing of this notice was changed.'],
} as const satisfies Record<string, Sentence>;
export type RefusalCode = keyof typeof REFUSALS;

type Holes<S extends string> = S extends `${string}{${infer Name}}${infer Rest}` ? Name | Holes<Rest> : never;
type Written<C extends RefusalCode> = (typeof REFUSALS)[C] extends readonly [
  string,
  infer A extends string,
  infer B extends string,
]
  ? `${A} ${B}`
  : (typeof REFUSALS)[C] extends readonly [string, infer A extends string]
    ? A
    : never;
/** What the sentence of a refusal needs to be given. */
export type Given<C extends RefusalCode> = Record<Holes<Written<C>>, string | number>;

export const kindOf = (code: RefusalCode): Kind => REFUSALS[code][0];

/** The sentence of a refusal, its remedy with it. */
export function refusalInWords<C extends RefusalCode>(code: C, given: Given<C>): string {
  const [, ...parts] = REFUSALS[code] as Sentence;
  return parts
    .join(' ')
    .replaceAll(/\{(\w+)\}/g, (_, name: string) => String((given as Record<string, unknown>)[name]));
}
