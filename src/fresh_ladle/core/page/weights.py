"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never edit."""

from __future__ import annotations

TABLE = """\
a dish: around -1.46, heading 0.88, item -0.67, more -0.07, note -0.65, step 0.38, title 1.60
a line of words: around 0.30, heading -0.48, item -0.14, more 0.10, note 0.20, step 0.11, title -0.09
a word: around 0.41, item -1.05, more 0.63, note -0.07, step -0.15, title -0.29, yield 0.51
above all: a dish: around -1.49, heading 0.48, item 0.26, more -0.15, note 0.14, step -0.46, title 1.22
above all: a line of words: heading -0.12, item 0.23, more -0.24, note 0.41, step -0.20, title -0.07
above all: around: around 0.56, heading -0.09, item 0.05, more -0.03, note -0.21, step -0.11, time 0.61, title
    -0.78
above all: capitals: around 0.09, heading 0.39, item -0.26, note -0.04, title -0.18
above all: colon within: around 1.04, heading -0.08, item -0.03, note -1.02, time 0.60, title -0.97, yield
    0.46
above all: first person: around -0.41, heading -0.03, item -0.06, note 0.80, step -0.38, title 0.09
above all: full stop: around -0.04, item -0.29, note 0.17, step 0.13, yield 0.04
above all: greeting: around 0.58, note -0.03, title -0.53
above all: said again: around -0.52, title 0.55
above all: said before: around -0.21, heading -0.02, title 0.24
above all: signs: around -0.04, heading -0.06, item 0.13, more -0.03, note -0.04, time 0.13, title -0.08
above all: some words: heading -0.35, item 0.49, more -0.18, note -0.43, step 0.26, time 0.16, title -0.06,
    yield 0.11
above all: tells: around 0.45, heading -0.05, item -0.79, more -0.15, note 1.04, step -0.65, title 0.11, yield
    0.03
above all: time: around -0.60, more -0.03, time 0.66
above all: title case: around 0.45, heading -0.25, item -0.29, note -0.16, step -0.06, time 0.45, title -0.14
above all: two or three words: around 0.12, heading -0.39, item -0.16, note 0.22, step -0.43, time 0.50, title
    -0.12, yield 0.25
above all: yields: around -0.46, heading -0.04, item -0.08, note -0.06, title -0.04, yield 0.68
after around: around 2.30, heading -1.22, item -1.32, list -0.13, method -0.07, more -0.54, note 0.64, step
    -0.93, time -0.40, title 2.00, yield -0.28
after around and a blank: around -0.32, item -0.05, list -0.04, method -0.08, note -0.07, step -0.08, time
    -0.02, title -0.14, yield -0.05
after heading: around -0.23, heading -0.17, item 1.38, list -0.03, method -0.11, more -0.56, note -0.22, step
    -0.25, title -0.05, yield -0.58
after heading and a blank: around -0.02, heading -0.02, item 0.29, step -0.08, yield -0.05
after item: around -0.36, item 1.08, method 0.28, more 0.31, note -1.00, step -0.05, title -0.87, yield 0.03
after item and a blank: around -0.17, heading 0.30, item -0.42, step 0.54, yield -0.03
after list: around 0.03, heading 0.05, item 0.10, title -0.15
after list and a blank: around -0.04, heading 0.04, item 0.07, title -0.06
after method: around -0.04, item -0.15, step 0.19
after more: around -0.42, item -0.05, more 1.19, note -0.35, step 0.18, title -0.07, yield 0.60
after note: around 0.55, heading -0.39, item -0.14, list -0.05, method -0.05, more -0.18, note -0.52, step
    -0.76, title 1.00, yield -0.10
after note and a blank: around 0.07, heading -0.09, item -0.09, note -0.05, step -0.02, title 0.22, yield 0.11
after step: around -1.54, heading -0.03, item -1.33, method -0.39, more 0.85, note 1.73, step 0.50, title
    -0.15, yield -0.47
after step and a blank: around 0.11, note 0.24, step -0.62
after time: around -0.29, heading -0.03, list 0.04, time 0.39, title -0.04, yield 0.59
after title: around -0.10, heading 0.59, method 0.34, more -0.19, note -0.59, step 0.17, time 0.51, title
    -1.88, yield 1.36
after title and a blank: around 0.31, heading -0.30, item 0.06, method 0.09, more -0.07, note 0.34, step
    -0.07, time 0.17, title -0.27, yield 0.17
after yield: around 0.48, heading 1.13, item 0.08, list 0.18, note -0.04, step -0.09, time 0.18, title -0.98
after yield and a blank: around 0.05, heading 0.63, item 0.08, list 0.06, note -0.02, time 0.05, title -0.52
after: amount first: around -0.21, heading 0.46, item -0.54, more 1.54, note -1.13, step -0.69, title 0.29,
    yield 0.25
after: amount last: around 0.47, heading -0.90, item 0.27, more 0.34, note -0.70, step -0.20, time 0.35, title
    0.35
after: blank before: around -0.86, heading 0.09, item 0.19, note 0.13, step -0.29, title 0.43, yield 0.32
after: bullet: around 0.21, heading 0.16, item -0.17, note -0.07, step -0.12, title -0.07, yield 0.05
after: capitals: around -0.28, heading -0.05, item 0.09, note -0.09, title 0.26, yield 0.07
after: colon: around 0.32, heading -0.13, item 0.21, note 0.23, step -0.35, title -0.41, yield 0.13
after: ends open: around -0.13, heading -0.52, item -0.58, more 0.23, note -0.45, step -0.06, time 0.66, title
    0.06, yield 0.79
after: full stop: around 0.24, heading -0.31, item 0.02, more 0.85, note -0.42, step -0.52, title 0.14
after: heading mark: item 0.04
after: list word: around -0.13, heading -0.03, note -0.05, time 0.04, yield 0.18
after: loose amount: around 0.30, heading -0.30, item 0.90, more -0.42, note 0.33, title -0.81
after: method word: around -0.07, heading -0.11, item 0.28, note -0.05, step -0.39, title 0.34
after: tells: around -0.18, heading -0.31, item 0.28, more -0.75, note 0.62, step 0.35, title -0.06, yield
    0.04
after: verb first: around -0.15, heading -0.32, item 0.18, more 0.21, note -0.62, step 0.47, title 0.20, yield
    0.02
afterwards: around 1.27, heading -0.04, item -0.04, note 0.05, step -0.46, title -0.78
amount first: around -1.24, heading -0.05, item 1.18, more -0.04, note 1.06, step -0.91, time 0.04, title
    -0.15, yield 0.10
amount last: around -0.43, heading -0.36, item 0.38, note -0.18, step 0.39, title -0.61, yield 0.81
around: around 1.90, heading -1.06, item -0.47, more -0.03, note -0.62, step 0.65, time 0.61, title -0.98
as liked: around -0.11, heading 0.09, item 1.35, more -0.09, note -0.17, step -1.04, title -0.03
asks or calls: around 0.31, note -0.24, step -0.05
before: amount first: around -0.61, heading -0.35, item -0.14, more 2.00, note -0.49, step -0.52, title -0.16,
    yield 0.27
before: amount last: around -0.41, heading 0.57, item 0.60, more 0.18, note -0.27, step 0.09, time 0.05, title
    -0.82
before: blank before: around 0.21, heading 0.02, item 0.10, more 0.10, note 0.42, step -0.22, time 0.18, title
    -1.01, yield 0.21
before: bullet: around -0.29, item -0.26, more 0.16, note 0.24, step 0.19, title -0.11, yield 0.07
before: capitals: around -0.03, heading 0.10, item 0.16, more -0.29, note -0.13, title 0.11, yield 0.08
before: colon: around -0.07, heading -0.15, item 0.10, note -0.03, title 0.15
before: ends in a hyphen: item -0.12, more 0.14
before: ends open: around -0.41, heading 0.10, item 0.11, more 0.88, note -0.05, step -0.65, time 0.66, title
    -1.30, yield 0.66
before: full stop: around 0.25, heading -0.07, item -0.32, note -0.15, step -0.31, title 0.25, yield 0.36
before: list word: around 0.03, heading 0.05, item 0.10, title -0.15
before: loose amount: around -0.06, heading 0.17, item 0.29, more -0.67, note -0.04, step 0.32, title -0.13,
    yield 0.11
before: method word: around -0.04, item -0.15, step 0.19
before: tells: around -0.12, heading -0.37, item -0.16, more -1.04, note 0.98, step 0.27, title 0.32, yield
    0.11
before: verb first: around 0.32, heading -0.12, item -0.15, more -0.55, note 0.46, step 0.48, title -0.04,
    yield -0.40
blank after: around 0.13, heading -0.04, item -0.23, more -0.22, note 0.17, step -0.63, title 0.27, yield 0.54
blank before: around 0.66, heading -0.31, item -0.73, more -0.07, note 0.17, step -0.48, time 0.19, title
    0.44, yield 0.13
bracket: around 1.36, heading -0.40, item 0.20, note -0.60, step -0.48, title -0.12, yield 0.03
bullet: around -0.39, heading -0.15, item 1.17, more -0.16, note -0.17, step -0.25, title -0.07
capitals: around -0.14, heading 0.87, item -0.40, note -0.07, title -0.25
colon: around -0.85, heading 0.23, note 0.92, title -0.29
colon within: around 1.93, heading -0.09, item -0.05, note -0.33, step -1.33, time 0.60, title -1.20, yield
    0.47
comma: around -0.17, heading -0.39, more 0.19, note 0.44, step 0.51, title -0.65, yield 0.08
early: around -0.70, heading -0.35, item -0.64, more 0.09, step -0.23, time 0.09, title 1.35, yield 0.40
ends in a hyphen: item 0.04, step -0.04
ends like a part: around -1.09, heading 1.25, item -0.91, more 0.25, note -0.41, step -0.10, title 1.01
ends open: around 1.05, heading -0.79, item -0.10, more 0.04, note -1.53, step -0.81, time 0.66, title 0.47,
    yield 1.00
figures of food: around 0.59, item -0.27, note -0.17, step -0.14
first: around 0.67, heading -0.86, item -0.68, note -0.23, step -0.12, title 1.23
first person: around -0.43, heading -0.03, item -0.06, more -0.06, note 0.88, step -0.38, title 0.09
full stop: around -0.98, item -0.91, more 0.83, note 1.04, step -0.11, yield 0.13
greeting: around 1.12, note -0.55, title -0.54
headed: around -0.22, heading 1.20, item -0.76, step -0.10, title -0.10
heading mark: heading 0.13, item -0.10
is a food: around -1.02, heading 0.03, item 1.14, more 0.52, note -0.29, step -0.10, title -0.29
last: around 0.99, heading -0.13, item -0.43, more -0.20, note 0.04, step -0.34, title -0.16, yield 0.22
late: around 0.85, heading -0.69, item -0.50, more 0.56, note -0.41, step 0.24, title -0.28, yield 0.24
loose amount: around -0.13, heading -0.31, item 2.01, more -0.39, note -0.27, step -0.48, title -0.42
many words: around -0.13, item -0.36, more -0.13, note 0.02, step 1.04, yield -0.42
measured: around -0.98, heading -0.27, item 2.06, note -0.26, step -0.60, title -0.27, yield 0.31
note word: around -1.59, heading -0.02, item -0.23, note 3.31, step -1.46
nothing before: around -0.23, heading -0.31, item 0.13, more -0.43, note 0.10, step -0.42, time 0.66, title
    -0.19, yield 0.68
numbered: around -0.30, heading 0.56, item -0.51, more -0.04, note -0.61, step 1.33, title -0.43
of a part: around -0.50, heading 1.77, item -0.80, note -0.07, step -0.10, title -0.30
of work: around -1.25, heading 0.33, item -1.02, more 0.94, note 0.07, step 1.05, time 0.66, title -0.37,
    yield -0.42
prepared: around -0.75, heading -0.15, item 0.99, more 0.38, note -0.03, step -0.25, title -0.19
said again: around 1.09, heading -0.71, item -0.65, note -0.03, step -0.06, title 0.37
said before: heading -0.06, item 0.04, note -0.08, step -0.14, title 0.24
second: around 0.61, heading -0.13, item -0.07, more -0.14, note 0.42, step -0.17, time 0.09, title -0.73,
    yield 0.13
several sentences: heading -0.09, item -0.32, more 0.91, note 0.44, step -0.37, title -0.16, yield -0.42
signs: around 0.48, heading -0.06, item 0.31, more -0.03, note -0.67, step -0.08, time 0.13, title -0.08
small first: around -2.11, heading -1.15, item 1.75, more 0.91, note 1.09, step -0.53, title 0.05
some words: around 0.14, heading -0.26, item 0.34, more -0.19, note -0.29, step -0.38, time 0.16, title 0.38,
    yield 0.11
tabs: around 0.26, heading -0.19, item 0.30, note -0.04, step -0.02, title -0.31
tells: around 0.29, heading -0.12, item -1.20, more -0.84, note 0.87, step 1.16, title -0.19, yield 0.03
time: around -0.60, more -0.03, time 0.66
title case: around 1.55, heading -0.27, item -1.28, note -0.33, step -0.12, time 0.45
two or three words: around 0.32, heading -0.20, item 0.18, more 0.47, note -0.46, step -1.80, time 0.50, title
    0.05, yield 0.96
verb first: around -0.38, heading -0.25, item -0.41, note -1.02, step 2.70, title -0.62
verb first of all: around -0.36, heading -0.30, item 0.25, more 0.41, note -0.71, step 1.31, title -0.61
verb within: around -1.57, item 0.62, more 0.98, note -0.74, step 1.01, time 0.06, title -0.35
yields: around -0.85, heading -0.07, item -0.19, note 0.65, step -0.54, title -0.16, yield 1.15
"""
