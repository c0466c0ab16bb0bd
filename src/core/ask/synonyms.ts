/**
 * Words that people who keep a website up to date use for the same thing (our own list, from common practice, no
 * source). A line is a group; its members are parted by commas, and may be several words. A question with one of them
 * is also asked with the others, at less weight.
 */
const GROUPS = `
sign out, log out, log off, logout, logoff, sign off, leave, exit, quit, go home, end my session, finish for today, close the session
sign in, log in, login, password, passphrase, credentials
change, edit, alter, amend, modify, update, correct, fix, adjust, revise, rewrite, rework, mend, put right, set right, tweak
mistake, mistakes, typo, error, spelling, misspelling, wrong, slip, misprint, incorrect, out of date, outdated
words, text, wording, sentence, sentences, paragraph, copy, content, story, article, lines, opening hours, opening times, prices, hours
page, pages, web page, webpage, subpage, site page
new, make, create, add, need another, begin, start, set up, build, draft, another one, extra
publish, put online, go live, make live, release, put out, post online, make public, make visible, get it out, show everybody, online now, right away, straight away, immediately, without approval, without review
send, submit, hand in, hand over, pass on, for approval, for checking, to be checked
review, approve, approval, check, proofread, proof, look over, read through, second look, second opinion, sign it off, accept, reject, turn down, send back, waiting, vet, four eyes
notice, announcement, announce, alert, warning, warn, message, bulletin, news flash, banner message, strip, headline, tell passengers, tell visitors, tell people, tell everybody, let people know, inform, breaking
late, delay, delayed, delays, cancelled, canceled, cancellation, closed, closure, fog, storm, weather, disruption, not running, sold out, full
end, stop, finish, over, remove the notice, take away, clear, no longer true, back to normal, done with, get rid of, expire, switch off, turn off
take down, take off, unpublish, hide, remove, delete, erase, bin, trash, throw away, get rid of, kill, wipe, pull, withdraw, retire, archive, offline
restore, bring back, undelete, recover, get back, put back, undo delete, deleted, lost page, rescue, wastebasket, rubbish bin
kept, keep, save, saved, saving, stored, store, safe
undo, go back, revert, roll back, old version, earlier version, previous version, older version, before, yesterday's version, history of a page, as it was, versions
move, reorder, rearrange, arrange, order, sort, drag, shift, put under, put below, underneath, nest, structure, tree, another place, somewhere else, relocate, sequence, beneath
find, search, look for, locate, where is, get to, go to, open, reach, list of pages, all pages, overview of pages
picture, pictures, photo, photos, photograph, image, images, graphic, drawing, illustration, snapshot, visual, logo
banner, header picture, header, hero, top picture, cover, title picture, headline picture, picture at the top, big picture, masthead
swap, replace, exchange, switch, substitute, another one, a different one
describe, description, alt text, alternative text, caption, say what it shows, for blind people, blind, screen reader, accessibility, cannot see, read aloud, visually impaired
link, links, linked, send readers, send people, lead people, lead readers, take people, to another site, hyperlink, url, web address, lead to, leads to, point to, click through, clickable, connect, refer, jump, anchor, www
invite, new colleague, new starter, new employee, newcomer, trainee, account, add a user, new user, user, give access, let in, join, onboard, sign up somebody, seasonal worker, volunteer, register somebody
people, colleagues, team, staff, members, users, accounts, coworkers, crew, employees, who works, contacts, person, responsible, in charge, whom to ask, who to ask, whose
changed by, who changed, who did, who edited, who wrote, who touched, what happened, log, activity, audit, trail, history, recent changes, journal, record, blame
website, site, homepage, home page, live site, public site, as visitors see it, what visitors see, what the public sees, front end, real site, view site, see the site, outside
preview, how will it look, what will it look like, how it will look, how it looks, see before, test view, try out, dry run, before it goes out, mock
heading, headline, subtitle, subheading, section title, big letters, title in the text
title, name of the page, page name, page heading, called, rename
summary, teaser, intro, introduction, lead, abstract, short text, standfirst
larger, bigger, smaller, letter size, font size, print, letters, readable, zoom
bold, strong, fat, thick, heavy, emphasise, emphasize
italic, slanted, cursive, oblique
list, bullets, bullet points, dots, enumeration, numbered, steps, checklist
table, grid, rows, columns, spreadsheet, cells
quote, quotation, citation, cite
address, path, slug, permalink, web address of the page, location bar
menu, navigation, nav, menu bar, main menu, show in menu, hide from menu
schedule, plan, later, tomorrow, next week, at a time, timer, time, date, automatically, by itself, future, embargo, at midnight, monday, tuesday, wednesday, thursday, friday, saturday, sunday, weekend, go out on, goes out on, on a day
note, notes, leave a note, remark, comment, memo, reminder, sticky, internal note, feedback
tour, tours, help, guide, how does it work, show me around, tutorial, lesson, explain, training, walkthrough, learn, instructions, manual
task, today, to do, todo, start page, dashboard, my work, desk, overview, first screen
role, rights, permission, permissions, access, allowed, may, authority, who may
visitors, public, members, members only, private, secret, restricted, intranet, who may visit, who can visit, who may see, who can see, protect, only for
layout, template, page type, design, form of the page, kind of page
author, writer, owner, editor, byline
language, translation, translate, tongue, welsh, dutch
search result, search engine, google result, found by search engines, seo, snippet, meta description
copy, duplicate, clone, same again, double
many, several, bulk, all at once, batch, multiple, mass
group, party, school class, company outing
unfinished, drafts, draft, half done, half finished, not finished, in progress, continue, go on, carry on, left off, pick up
visits, statistics, stats, figures, traffic, numbers, how many people, hits, analytics, popular
pause, suspend, block, lock out, freeze, disable, deactivate
prepare, workshop, set up rooms, configure, settings, rooms, customise, customize, options, preferences
release, releases, earlier plan, live plan
file, import, export, upload, download, document, attachment, pdf, csv
`;

/** The groups, each member as its words. */
export const SYNONYMS: readonly (readonly string[])[] = GROUPS.trim()
  .split('\n')
  .map((line) => line.split(',').map((member) => member.trim()));
