/**
 * Questions as people ask them who keep a website up to date, written from what the tasks are for and not from the
 * words the entries use; with what must be found, `kind id`, or one of several parted by "|". Invented for this test.
 */
export const QUESTIONS: readonly (readonly [string, string])[] = `
change my password > control frame.password
I want a new password > control frame.password
make the letters bigger > control frame.preferences
the text is too small to read > control frame.preferences
dark colours > control frame.preferences
how are dates written > control frame.preferences
visits > widget visits.week
how many people came to the website this week > widget visits.week
make words bold > tool bold
make a table > tool table
put a table of fares on the page > tool table
make a numbered list > tool numbers
put in a heading > tool heading.2
make the page go out on Friday > control pages.edit.schedule
leave a note for my colleagues > control pages.edit.notes
bold > tool bold
put words in italic > tool italic
the ferry is not running this afternoon, how do passengers learn of it > task notices.post
fog, boats stopped > task notices.post
I must tell everybody at once that we close early > task notices.post
put up a warning > task notices.post
the 7:40 is late > task notices.post
write an announcement > task notices.post
where can I say that parking is full today > task notices.post
storm tomorrow, inform travellers > task notices.post
get a message on top of every page > task notices.post
breaking news for visitors > task notices.post
anouncement > task notices.post
the fog is over, take the warning away > task notices.end
stop the announcement > task notices.end
remove a notice > task notices.end
the delay message is no longer true > task notices.end
everything is back to normal > task notices.end
clear the alert on the website > task notices.end
get rid of the banner message > task notices.end
a boat time is wrong on the page > task pages.words
there is a typo > task pages.words
fix a spelling mistake > task pages.words
the opening hours changed > task pages.words
update the prices > task pages.words
correct a sentence > task pages.words
add a paragraph > task pages.words
edit text > task pages.words
edit a page > task pages.words
change what it says about bicycles > task pages.words
rewrite the story of our line > task pages.words
the phone number on the page is outdated > task pages.words
adjust the wording > task pages.words
how do i alter the page about groups > task pages.words
correct spelling > task pages.words
the photo at the top is ugly, another one please > task pages.banner
change the header picture > task pages.banner
replace the big photo > task pages.banner
swap the image on top of the harbour page > task pages.banner
new cover photo > task pages.banner
put a different picture on the page > task pages.banner
exchange hero image > task pages.banner
use another photograph > task pages.banner
make text clickable > task pages.link
link to the timetable > task pages.link
add a hyperlink > task pages.link
send readers to another page > task pages.link
point these words to a web address > task pages.link
insert url > task pages.link
connect two pages > task pages.link
lead people to the booking site > task pages.link
put it online now > task pages.publish
make my change live right away > task pages.publish
publish without waiting for anybody > task pages.publish
go live > task pages.publish
release a page immediately > task pages.publish
i want visitors to see it straight away > task pages.publish
publsh > task pages.publish
get it out without approval > task pages.publish
add a page about the new boat > task pages.make
create a page > task pages.make
I need another page > task pages.make
start a new article > task pages.make
set up a sub page > task pages.make
make pages for next season > task pages.make
build a page for the lantern event > task pages.make
add web page > task pages.make
change the order of pages > task pages.arrange
move a page somewhere else > task pages.arrange
put the jobs page under about us > task pages.arrange
drag pages around > task pages.arrange
sort the pages > task pages.arrange
rearrange the tree > task pages.arrange
this page should come before that one > task pages.arrange
reorder the subpages > task pages.arrange
delete a page > task pages.retire
hide a page from visitors > task pages.retire
take an old page offline > task pages.retire
unpublish > task pages.retire
remove a page we no longer need > task pages.retire
throw a page away > task pages.retire
get a deleted page back > task pages.retire|screen pages.deleted|control pages.tree.deleted|control pages.deleted.list
restore what I deleted > task pages.retire|screen pages.deleted|control pages.tree.deleted|control pages.deleted.list
undelete > task pages.retire|screen pages.deleted|control pages.tree.deleted|control pages.deleted.list
where is the rubbish bin > task pages.retire|screen pages.deleted|control pages.tree.deleted|control pages.deleted.list
pull a page for a while > task pages.retire
find the page about luggage > task pages.find
where is the page on parking > task pages.find
list of all pages > task pages.find|door pages|control pages.tree.list
I cannot find my page > task pages.find
look for an article > task pages.find
search pages > task pages.find
get to a page a colleague made > task pages.find
overview of pages > task pages.find|door pages|control pages.tree.list
locate a page > task pages.find
say what is on a photo for blind people > task pictures.describe
alt text > task pictures.describe
write a caption for a picture > task pictures.describe
make pictures accessible > task pictures.describe
screen reader text of an image > task pictures.describe
describe the photograph > task pictures.describe
what does the picture show > task pictures.describe
image description missing > task pictures.describe
look over what a colleague wrote > task review.decide
approve a change > task review.decide
somebody waits for my approval > task review.decide
proofread > task review.decide
send a draft back to its writer > task review.decide
reject an edit > task review.decide
check a page before it goes out > task review.decide|control pages.edit.checks
accept what ines changed > task review.decide
read what others changed and let it out > task review.decide
review > task review.decide|door review
give the second look > task review.decide
pages waiting for approval > task review.decide|control review.list.waiting
a new colleague starts on monday > task people.invite
add a user > task people.invite
create an account for the trainee > task people.invite
give a volunteer access > task people.invite
let somebody else work here > task people.invite
new employee needs a login > task people.invite
invite a seasonal worker > task people.invite
make an account > task people.invite
who can help me with this page > task people.see
who is responsible for the fares > task people.see
whom do I ask about the café > task people.see
list of colleagues > task people.see|door people|control people.list.all
who else works on the site > task people.see
see the team > task people.see|door people|control people.list.all
who is in charge of pictures > task people.see
contacts of my coworkers > task people.see|door people|control people.list.all
who changed the timetable > task activity.see
who did that > task activity.see
what happened yesterday > task activity.see
see recent changes > task activity.see|door activity
audit trail > task activity.see|door activity
log of changes > task activity.see|door activity
somebody touched my page, who was it > task activity.see
history of what was done lately > task activity.see|door activity
log out > task frame.leave
sign off > task frame.leave
how do I get out of here > task frame.leave
I am going home > task frame.leave
leave the program > task frame.leave
finish for today > task frame.leave
logout > task frame.leave
close the session > task frame.leave
see the real site > task frame.website|control frame.website
what does the public see > task frame.website|control frame.website|control pages.edit.state
view site > task frame.website|control frame.website
check the live website > task frame.website|control frame.website
open the homepage as visitors have it > task frame.website|control frame.website
look at it from outside > task frame.website|control frame.website
go back to an old version > control pages.edit.versions
earlier versions of a page > control pages.edit.versions
undo what I published yesterday > control pages.edit.versions
the page as it was before > control pages.edit.versions
how will it look before it goes out > control pages.edit.preview|screen pages.preview|task pages.publish
preview > control pages.edit.preview|screen pages.preview
publish tomorrow morning > control pages.edit.schedule|task pages.publish
take the page down at midnight > control pages.edit.schedule|task pages.retire
schedule a page > control pages.edit.schedule|task pages.publish
members only page > control pages.edit.visitors
who may see this page > control pages.edit.visitors
change the address of a page > control pages.edit.address
leave a note for a colleague on a page > control pages.edit.notes
words for search engines > control pages.edit.result
show the page in the menu > control pages.edit.navigation
show a draft to somebody without an account > control pages.edit.link
show me around > control frame.tours|control tours.list|screen tours
help with a tour > control frame.tours|control tours.list|screen tours
change many pages at once > control pages.tree.choose
is my draft kept > control pages.edit.state
change the title > control pages.edit.title|task pages.words
the short text under the title > control pages.edit.summary
`
  .trim()
  .split('\n')
  .map((line) => {
    const [asked = '', wanted = ''] = line.split(' > ');
    return [asked.trim(), wanted.trim()] as const;
  });
