"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never edit."""

from __future__ import annotations

TABLE = """\
a dish: around -5.9, heading 2.7, item -5.6, more 1.0, note -8.5, step 6.8, title 9.6
a line of words: around 4.5, heading -1.0, item -1.6, note 8.1, step -10.1
a word: around 5.8, heading 1.0, item -9.9, more 2.8, note -0.5, step -2.0, title -0.9, yield 3.6
above all: a dish: around -6.8, heading 2.2, item -0.4, more -1.0, note -2.3, title 8.2
above all: a line of words: around 2.6, item 3.7, more -1.9, note 6.3, step -10.7
above all: around: around 1.3, heading -1.0, item 1.2, more -1.0, note -2.5, time 5.2, title -3.2
above all: capitals: around 0.2, item -3.0, title 2.7
above all: colon within: around 8.6, heading -1.0, item -0.8, note -9.2, time 4.2, title -3.4, yield 1.6
above all: first person: around -1.5, item -6.1, note 12.9, step -6.5, title 1.2
above all: full stop: around 3.5, item -7.9, note 18.4, step -14.0
above all: greeting: around 2.7, item -1.0, title -1.7
above all: said again: around -3.4, note -1.0, title 4.3
above all: said before: around -1.1, title 1.1
above all: signs: around 1.3, item 1.2, more -1.0, note -1.5, time 1.0, title -1.0
above all: some words: around -1.4, heading -0.1, item 5.6, more -2.9, note -4.6, time 2.0, title 1.4
above all: tells: around 6.7, heading -1.0, item -8.8, more -1.0, note 17.2, step -14.0, title 0.9
above all: time: around -3.2, more -1.0, note -1.0, time 5.2
above all: title case: around 2.7, heading -1.9, item -3.6, note -2.5, time 3.2, title 2.1
above all: two or three words: heading -5.8, item -7.8, list 12.5, note 0.7, step -5.2, time 3.2, title 1.1,
    yield 1.5
above all: yields: around -1.6, item -2.0, note -0.5, title -1.0, yield 5.1
after around: around 12.5, heading -3.7, item -9.2, method -1.9, more -0.5, note 3.3, step -7.8, title 11.5,
    yield 0.4
after around and a blank: around -1.0, step -1.5, title -1.0
after heading: around -1.0, heading -1.0, item 3.4, method -1.0, more -1.8, step -1.2, yield -0.9
after heading and a blank: step -0.3
after item: around -0.9, heading -0.8, item 3.2, method 4.8, more 3.9, note -9.3, step 4.8, title -7.6, yield
    -8.0
after item and a blank: heading 0.6, item -2.8, step 5.7, title -7.6, yield -6.1
after list: around 1.2, heading 0.7, item 13.3, title -2.6
after method: item -1.0, step 1.0
after more: around -2.2, item 2.1, more 1.6, note -1.5, step 1.8, yield 1.9
after note: around 7.5, heading -1.0, item -7.0, more -0.9, note -2.4, step -7.2, title 6.1, yield 7.3
after note and a blank: around -1.1, heading -1.0, step -1.0, title 11.8, yield 12.6
after step: around -12.3, item -7.1, method -1.8, more 4.9, note 11.9, step -2.5, title -3.3, yield -6.5
after step and a blank: around 2.0, note 1.9, step -4.5, title -3.3, yield -5.6
after time: time 1.6, yield 3.6
after title: around 3.2, heading 2.4, item -1.8, list -1.0, more -2.0, note -1.8, step -3.3, time 3.6, title
    -13.5, yield 10.3
after title and a blank: around -0.9, item 4.8, note -2.8
after yield: around -1.0, heading 1.7, item -3.3, list 13.5, note -1.9, step -1.0, title -2.0
after yield and a blank: around -1.0, heading 5.3, item -1.0, title -2.0
after: amount first: around -5.2, heading -0.4, item 0.8, list 12.5, more 5.9, note -7.9, step -5.4, title
    -2.3, yield 2.0
after: amount last: around 0.6, heading -0.9, item 0.7, note 1.7, step -6.5, time 2.6, title 1.9
after: blank before: around -3.5, heading -0.3, item -10.2, note 21.2, step -9.5, title 1.1, yield 1.3
after: bullet: heading 3.0, item -3.0
after: capitals: around 1.7, heading -1.0, title -0.7
after: colon: around 2.4, item 1.0, note 2.0, step -3.8, title -1.5
after: ends open: around 1.4, heading -3.6, item -10.6, list 12.5, more -1.3, note 6.7, step -15.0, time 5.2,
    title -1.1, yield 5.9
after: full stop: around 0.8, heading -0.9, item 0.6, more 5.1, note -6.4, step 2.1, title -1.3
after: list word: title -1.0, yield 1.0
after: loose amount: around 2.1, item 9.0, more -3.9, note -2.9, title -4.3
after: method word: around -1.9, heading -1.0, item 4.8, step -1.8
after: tells: around 0.1, heading -1.9, item 2.5, more -5.0, note 2.7, step 3.8, title -2.3
after: verb first: around -0.9, heading -0.3, item 0.8, more 1.9, note -7.4, step 6.9, title -1.0
afterwards: around 2.4, item -1.0, note 1.6, step -3.1
amount first: around -5.1, item -2.4, more -2.0, note 25.0, step -16.6, time 1.0, title -1.0, yield 1.0
amount last: around -4.2, item 8.9, note -3.5, step 1.8, title -8.0, yield 4.9
around: around 7.3, heading -5.1, item -0.7, more -1.0, note -7.7, step 5.3, time 5.2, title -3.2
as liked: around -1.0, heading 1.0, item 1.8, step -1.8
asks or calls: around 3.2, note -1.2, step -1.9
before: amount first: around -2.3, heading -1.1, item 1.9, more 7.5, note -8.9, step 0.4, title 1.5, yield 0.9
before: amount last: around -5.4, heading 0.1, item 5.4, list 12.5, note -4.5, step -1.4, title -6.7
before: blank before: around 3.0, heading -1.2, item -1.5, more -2.0, note 3.0, step -1.9, time 1.0, title
    -4.0, yield 3.5
before: bullet: heading 3.0, item -3.0, note 10.7, step -10.7
before: capitals: around 0.6, item 2.2, more -1.8, step -0.9, title -1.0, yield 1.0
before: colon: around -0.4, heading -0.8, item -0.4, title 1.5
before: ends in a hyphen: heading -0.9, item -1.0, more 1.9
before: ends open: around -0.5, heading -1.0, item -2.2, list 12.5, more 5.2, note -4.0, step -8.0, time 5.2,
    title -12.2, yield 5.1
before: full stop: around 6.9, item -4.8, note 3.3, step -7.4, title -0.9, yield 2.9
before: list word: around 1.2, heading 0.7, item 0.8, title -2.6
before: loose amount: item 1.9, more -3.9, note -0.9, step 3.4, title -1.3, yield 0.9
before: method word: item -1.0, step 1.0
before: tells: around -0.7, item 0.4, more -7.1, note -1.4, step 7.0, title 1.1, yield 0.9
before: verb first: around 0.4, heading -1.0, item -1.6, more -3.7, note -1.0, step 8.8, title -1.0, yield
    -0.9
blank after: around 1.1, heading -1.3, item -12.5, more 1.4, note 14.9, step -8.2, title 1.1, yield 3.3
blank before: around 0.2, heading 2.1, item -3.7, note -3.1, step -1.7, title 5.4, yield 0.9
bracket: around 6.0, heading -4.6, item -2.5, list 12.5, note -9.5, step -1.9
bullet: heading 3.0, item -3.0, note -1.0, step 1.0
capitals: around -0.8, heading 3.1, item -4.1, step -0.9, title 2.7
colon: around 1.1, heading 0.7, item -9.1, note 11.4, step -3.3, title -0.7
colon within: around 14.7, heading -1.0, item -3.7, note -6.6, step -5.7, time 4.2, title -3.4, yield 1.6
comma: around 0.9, item -11.2, more -0.1, note 12.3, step 0.2, title -2.1
early: around -1.3, heading -3.8, item -13.9, list 12.5, more -1.1, note 1.5, step -1.9, time 1.0, title 2.7,
    yield 4.3
ends like a part: around -5.3, heading 7.4, item -7.9, more 0.9, note -0.9, title 5.8
ends open: around 1.8, heading -0.7, item 13.3, more -2.1, note -15.9, step -4.4, time 5.2, title -3.2, yield
    5.9
figures of food: around 1.9, note -1.2, step -0.7
first: around 2.1, heading -2.8, item -4.8, note -2.2, title 7.7
first person: around -1.5, item -6.1, note 12.9, step -6.5, title 1.2
full stop: around -2.9, item -12.9, more 7.3, note 11.3, step -4.8, yield 2.0
greeting: around 4.5, item -1.0, note -0.8, step -1.0, title -1.7
headed: around -1.0, heading 4.7, item -2.1, step -0.9, title -0.7
heading mark: heading 3.0, item -3.0
is a food: around -2.7, heading 1.3, item 3.7, more 2.8, step -3.1, title -2.0
last: around 4.7, heading -1.0, item -2.2, more 1.4, note -6.3, step 1.4, yield 2.0
late: around 5.8, heading -1.3, item -7.7, more 5.3, note 1.0, step -4.1, title -1.0, yield 2.0
loose amount: around -0.1, heading -2.0, item 11.1, more -3.9, note 5.1, step -6.6, title -3.6
many words: around -1.3, item -6.1, more -1.0, note -2.5, step 11.7, yield -0.9
measured: around -10.5, heading -4.6, item 16.6, list 12.5, note -6.0, step -2.0, title -7.0, yield 1.0
note word: around -9.8, item -2.0, note 18.6, step -6.8
nothing before: around 0.1, heading -1.6, item -7.5, list 12.5, more -4.9, note 8.6, step -19.2, time 5.2,
    title 1.8, yield 5.1
numbered: around -1.5, heading 2.6, item 0.8, note -7.0, step 7.0, title -1.9
of a part: around -1.7, heading 7.6, item -4.1, step -0.9, title -0.8
of work: around -6.0, heading 0.9, item -7.8, more 7.3, note -10.2, step 13.4, time 5.2, title -1.9, yield
    -0.9
prepared: around -3.2, item 9.0, note -1.3, step -2.5, title -2.0
said again: around 4.0, heading -3.2, item -4.2, note -1.0, title 4.3
said before: around 0.7, note -1.8, title 1.1
second: around 0.3, heading -0.3, item -0.5, more -2.0, note 5.1, step -3.3, time 1.0, title -3.8, yield 3.5
several sentences: around -0.7, heading -1.0, item -7.1, more 7.5, note 1.8, step 1.3, title -1.0, yield -0.9
signs: around -0.9, item 4.5, more -1.0, note -2.6, time 1.0, title -1.0
small first: around -11.1, heading -5.3, item 12.8, more 6.2, step -1.9, title -0.7
some words: around 0.9, heading -2.9, item 6.5, more -1.6, note -6.4, step -1.5, time 2.0, title 2.9
tabs: around -2.9, item 3.8, title -1.0
tells: around 8.5, heading -1.0, item -13.6, more -7.1, note 10.4, step 1.9, title 0.9
time: around -3.2, more -1.0, note -1.0, time 5.2
title case: around 7.3, heading 1.1, item -9.5, note -3.3, step -0.9, time 3.2, title 2.1
two or three words: around -0.7, heading -1.8, item -1.2, list 12.5, more 4.8, note -2.6, step -13.6, time
    3.2, title -5.9, yield 5.2
verb first: around -5.1, heading 0.9, item 0.7, more 0.7, note -17.7, step 21.7, title -1.2
verb first of all: around -4.1, item 3.1, more 4.7, note -15.1, step 12.6, title -1.2
verb within: around -7.5, heading -2.9, item 0.8, more 5.4, note -12.6, step 18.3, time 2.0, title -3.5
yields: around -3.2, item -2.0, note -0.8, step -1.0, title -1.0, yield 7.9
"""
