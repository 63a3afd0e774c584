"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never edit."""

from __future__ import annotations

TABLE = """\
a dish: around -0.61, heading 0.64, item -1.07, more 0.03, note -2.53, step 0.71, title 2.83
a line of words: around 1.22, heading -0.97, item -0.88, more 0.10, note 0.65, step -0.02, title -0.09
a word: around 0.43, heading -0.07, item -1.25, more 1.13, note -0.03, step -0.13, time 0.06, title -0.60,
    yield 0.45
above all: a dish: around -1.57, heading 0.38, item -0.17, more -0.13, note 1.06, step -0.84, title 1.27
above all: a line of words: around -0.24, heading -0.07, item 0.35, more -0.17, note 0.18, step 0.13, title
    -0.18
above all: around: around 1.32, heading -0.25, item 0.07, more -0.05, note -0.88, step -0.13, time 0.54, title
    -0.61
above all: capitals: around -0.37, heading 0.85, item -0.31, list -0.04, note 0.84, step -0.36, title -0.62
above all: colon within: around 0.99, heading -0.07, item 0.13, more -0.14, note 0.39, step -0.16, time 0.40,
    title -1.91, yield 0.36
above all: first person: around 0.11, heading -0.08, item -0.11, note 0.72, step -0.54, title -0.11
above all: full stop: around 0.73, item -0.80, more 0.05, note 0.53, step -0.33, yield -0.20
above all: greeting: around -0.25, heading -0.07, item -0.06, note 1.23, title -0.85
above all: said again: around -0.26, note -0.04, title 0.32
above all: said before: around -0.06, note -0.11, title 0.20
above all: signs: around -0.22, heading -0.07, item 0.32, more -0.05, note -0.08, time 0.18, title -0.06
above all: some words: around -0.27, heading 0.07, item 0.35, more -0.35, note -0.09, step 0.21, time 0.21,
    title -0.02, yield -0.11
above all: tells: around 0.50, heading 0.13, item -0.73, list -0.04, more -0.05, note 0.85, step -0.24, title
    -0.08, yield -0.35
above all: time: around -0.49, more -0.05, time 0.56
above all: title case: around 0.38, heading -0.09, item -0.51, list -0.04, note 0.35, step -0.41, time 0.42,
    title -0.10
above all: two or three words: around 0.04, heading -0.42, item -0.55, list -0.04, more 0.37, note -0.07, step
    0.06, time 0.35, title -0.03, yield 0.29
above all: yields: around -0.55, heading -0.04, item -0.17, note 0.52, step -0.10, title -0.05, yield 0.39
after around: around 2.61, heading -2.15, item -1.14, list -0.13, method -0.14, more -0.16, note 0.04, step
    -0.85, time 0.49, title 2.20, yield -0.36
after around and a blank: around -0.98, item -0.10, note -0.10, step -0.06, title -0.08, yield -0.13
after heading: around -0.57, heading -0.17, item 1.83, method -0.07, more -0.45, note -0.78, step 0.58, time
    -0.13, title -0.03, yield -0.54
after heading and a blank: heading -0.02, item 0.57, note -0.13, step 0.31
after item: around -0.26, heading 0.02, item 1.25, list -0.03, method 0.22, more 0.30, note -1.72, time -0.05,
    title -0.88, yield -0.07
after item and a blank: around -0.23, heading 0.48, item -0.48, method 0.12, note -0.04, step 0.17, title
    -0.03
after list: around 0.03, heading 0.08, item 0.45, note -0.07, title -0.20
after list and a blank: around -0.15, item 0.24
after method: heading -0.05, item -0.12, step 0.19
after more: around -0.40, heading -0.03, item 0.13, more 1.56, note -0.86, step 0.13, yield 0.85
after note: around -0.60, heading -1.14, item -1.17, list -0.09, method -0.34, more -0.23, note 2.43, step
    -1.47, time -0.65, title 1.61, yield 0.39
after note and a blank: around 1.53, heading -0.15, item -0.50, method -0.04, note -1.12, title 0.20
after step: around -1.04, heading 0.82, item -1.54, method -0.47, more 1.05, note 1.48, step 0.37, time -0.51,
    title -0.45, yield -0.84
after step and a blank: around 0.51, method -0.06, note 0.11, step -0.61
after time: around -0.05, heading 0.37, item 0.45, note -0.60, step -0.12, time 0.61, title -0.24, yield 0.40
after title: around 0.39, heading 1.07, item -0.47, method 0.79, more -0.76, note -0.95, step 0.08, time 0.38,
    title -2.43, yield 1.80
after title and a blank: around -0.13, heading -0.28, item 0.35, more -0.10, note 0.67, step 0.16, time 0.06,
    title -0.29, yield 0.18
after yield: around 0.77, heading 1.14, item -0.43, list 0.54, note 0.27, step -0.14, time 0.67, title -1.65
after yield and a blank: around -0.43, heading 0.84, item -0.12, list 0.10, note 0.18, time 0.34, title -0.61
after: amount first: around -1.81, heading 0.83, item -0.80, more 1.31, note -0.29, step -0.30, time 0.03,
    title 0.55, yield 0.48
after: amount last: around 0.49, heading -0.59, item 0.06, list 0.34, more 1.00, note -0.59, step -0.88, time
    -0.23, title 0.32, yield 0.08
after: blank before: around -1.48, heading 0.69, list 0.09, note -0.11, step -0.07, title 0.62, yield 0.28
after: bullet: around 0.38, heading 0.15, item -0.46, more -0.31, note -0.20, step -0.12, time 0.03, title
    0.31, yield 0.21
after: capitals: around -0.16, heading -0.05, item 0.13, note 0.18, title -0.22, yield 0.13
after: colon: around 2.05, heading -0.09, note -0.87, step -0.68, time 0.02, title -0.51, yield 0.06
after: ends open: around -0.42, heading -1.17, item -0.78, list 0.34, more 0.26, note 1.11, step -0.60, time
    0.82, title -0.64, yield 1.06
after: full stop: around 0.33, heading 0.43, item -0.06, list -0.06, more 1.09, note -1.78, step -0.59, time
    -0.03, title 0.63, yield 0.03
after: heading mark: item 0.05, note -0.03
after: list word: around -0.13, note -0.03, yield 0.18
after: loose amount: around -0.10, heading -0.51, item 1.04, more -0.80, note 0.80, step -0.12, title -0.35,
    yield 0.04
after: method word: around -0.14, heading -0.07, item 0.22, note -0.34, step -0.47, title 0.79
after: tells: around 0.14, heading -0.26, item 0.15, list -0.06, more -0.57, note 0.51, step 0.78, title
    -0.74, yield 0.04
after: verb first: heading 0.51, item 0.42, more 0.13, note -1.34, step -0.52, time 0.16, title 0.61
afterwards: around 2.25, heading -0.48, item -0.18, note 0.58, step -1.25, title -0.92
amount first: around -0.44, heading -0.33, item 0.79, more -0.05, note 0.82, step -0.96, time 0.12, title
    -0.02, yield 0.08
amount last: around -0.52, heading -0.42, item 1.67, more -0.33, note -1.14, step 0.64, title -0.55, yield
    0.64
are foods: around -0.09, heading -0.27, item 1.41, more -0.02, note -0.05, step -0.98
around: around 3.10, heading -0.96, item -0.64, more -0.05, note -2.02, step 0.76, time 0.71, title -0.91
as liked: around -0.03, heading -0.18, item 1.84, more 0.13, note -0.29, step -1.46
asks or calls: around 1.12, heading -0.22, note 0.13, step -0.42, title -0.59
before: amount first: heading -0.85, item 0.51, list 0.34, more 1.02, note -0.51, step -0.48, time 0.23, title
    -0.50, yield 0.23
before: amount last: heading 0.27, item 0.84, list 0.34, more 0.28, note -0.89, time 0.40, title -1.25, yield
    0.03
before: blank before: around 0.79, heading 0.20, item 0.18, list 0.09, more -0.12, note -0.04, step -1.01,
    time 0.38, title -0.63, yield 0.17
before: bullet: around 0.26, heading -0.10, item -0.39, more 0.04, note 0.03, step 0.25, title -0.13, yield
    0.04
before: capitals: around -0.23, heading 0.10, item 0.14, more -0.43, note -0.21, step 0.60, time 0.10, title
    -0.11, yield 0.06
before: colon: around 0.05, heading -0.14, item 0.40, note -0.23, step -0.44, title 0.35
before: ends in a hyphen: item -0.13, more 0.13
before: ends open: around -0.77, heading -0.55, item 0.11, list 0.34, more 1.30, note -0.37, step -0.33, time
    0.81, title -1.51, yield 0.97
before: full stop: around 0.17, heading 0.93, item -0.61, list -0.06, note 0.08, step -0.41, title -0.64,
    yield 0.54
before: list word: heading 0.08, item 0.11, title -0.20
before: loose amount: around -0.41, heading -0.32, item 0.64, more -0.53, note 0.13, step 0.60, time 0.19,
    title -0.39, yield 0.08
before: method word: heading -0.05, item -0.12, step 0.19
before: tells: around 0.92, item 0.02, list -0.06, more -1.58, note -0.06, step 0.04, time 0.19, title 0.73,
    yield -0.23
before: verb first: around 0.24, heading 0.77, item -0.05, more -0.68, note -0.43, step 1.06, time -0.51,
    yield -0.41
blank after: around 0.16, heading -0.23, item -0.52, list 0.09, more -0.06, note 0.31, step -0.48, title
    -0.02, yield 0.75
blank before: around 1.28, heading -0.35, item -0.98, list 0.09, more -0.10, note -0.52, step -0.37, time
    0.38, title 0.54, yield 0.03
bracket: around 1.08, heading -0.52, item 0.16, more -0.22, note -0.94, step -0.31, title 0.46, yield 0.29
bullet: around -0.38, heading -0.31, item 1.63, more -0.21, note -0.39, step -0.15, title -0.19
capitals: around -2.01, heading 1.64, item -0.43, list 0.28, note 1.70, step -0.41, title -0.79
colon: around 0.05, heading 0.65, note 0.34, title -1.04
colon within: around 1.51, heading -0.32, item 0.15, more -0.22, note 1.08, step -1.30, time 0.81, title
    -2.18, yield 0.48
comma: around -1.01, heading -1.17, item 0.11, more 0.25, note 1.49, step 0.86, title -0.54
early: around -0.63, heading -0.58, item -0.78, list 0.23, more 0.24, note 0.30, step -1.28, time 0.38, title
    1.77, yield 0.35
ends in a hyphen: item 0.03, step -0.03
ends like a part: around -1.26, heading 1.33, item -0.68, more 0.23, note 0.87, step -1.25, title 0.76
ends open: around 0.64, heading -1.16, item 0.16, list 0.28, more 0.50, note -1.90, step -0.96, time 1.04,
    title 0.41, yield 1.00
figures of food: around 2.25, heading -0.02, item -0.31, note -1.41, step -0.50
first: around 1.18, heading -1.22, item -0.93, note -0.07, step -0.31, title 1.35
first person: around 0.74, heading -0.81, item -0.11, note 1.82, step -1.40, title -0.23
full stop: around -0.94, item -1.60, more 0.80, note 1.55, step 0.05, time -0.23, yield 0.34
greeting: around 0.68, heading -0.12, item -0.11, note 0.73, title -1.18
headed: around -0.78, heading 0.70, note 0.40, title -0.32
heading mark: heading 0.23, item -0.14, note -0.08
is a food: around -0.60, heading -0.28, item 1.54, more 0.29, note -0.83, title -0.11
last: around 1.63, heading -0.91, item -0.50, more -0.06, note 0.42, step -0.41, title -0.64, yield 0.47
late: around 0.26, heading -0.76, item -0.67, more 0.93, note 1.43, step 0.84, time -0.54, title -1.93, yield
    0.45
list word: list -0.06, note 0.06
loose amount: around -0.41, heading -0.39, item 3.12, more -0.95, note -0.90, step -0.27, title -0.19
many words: around -0.43, heading -0.18, item -0.32, more -0.07, note -0.23, step 1.78, title -0.16, yield
    -0.39
measured: around -0.43, heading -0.26, item 2.74, more -0.54, note -1.09, step -0.19, title -0.72, yield 0.49
note word: around -1.23, heading -0.27, item -0.07, note 3.75, step -2.18
nothing before: around -0.20, heading -0.11, item 0.24, list -0.04, more 0.14, note -0.74, step 0.39, time
    0.56, title -0.64, yield 0.39
numbered: around -0.31, heading 0.27, item 0.15, note -1.06, step 2.02, time -0.37, title -0.69
of a part: around -0.30, heading 1.49, item -0.56, more 0.02, note -0.45, title -0.20
of work: around -2.01, heading 0.80, item -1.11, more 1.33, note -0.25, step 1.53, time 0.81, title -0.73,
    yield -0.39
prepared: around -0.68, heading -0.14, item 0.72, more 0.46, note -0.10, step -0.22, title -0.05
said again: around 0.52, heading -0.50, item -1.00, note -0.06, step -0.05, title 1.08
said before: heading -0.14, item 0.09, note -0.34, step -0.06, title 0.47
second: around -0.03, heading -0.08, item 0.16, more -0.38, note 0.59, step -0.06, time 0.03, title -0.34,
    yield 0.10
several sentences: around -0.43, heading -0.06, item -0.24, more 1.02, note 1.13, step -0.96, title -0.07,
    yield -0.39
signs: around 0.18, heading -0.08, item 0.65, more -0.05, note -1.00, step -0.08, time 0.44, title -0.06
small first: around -2.52, heading -1.96, item 1.54, more 1.34, note 1.85, step 0.55, title -0.80
some words: around 1.01, heading -0.66, item 0.82, more -0.30, note -1.52, step -0.61, time 0.49, title 0.56,
    yield 0.20
tabs: around 0.30, heading -0.70, item 0.83, note -0.06, step -0.07, title -0.30
tells: around 0.66, heading -0.05, item -1.58, list -0.06, more -1.05, note 1.69, step 0.82, title -0.08,
    yield -0.35
time: around -1.02, heading -0.05, item -0.02, more -0.05, note -0.17, step 0.63, time 0.81, title -0.11
title case: around 2.19, heading -0.80, item -2.18, list 0.28, note -0.44, step -0.52, time 0.75, title 0.73
two or three words: around -0.19, heading 0.63, item -0.07, list 0.28, more 0.45, note 0.30, step -2.57, time
    0.26, title -0.45, yield 1.37
verb first: around -0.90, heading 0.71, item -0.58, more 0.25, note -1.32, step 2.84, time -0.43, title -0.56
verb first of all: around -0.86, heading 0.72, item 0.11, more 0.53, note -0.76, step 1.20, time -0.43, title
    -0.52
verb within: around -1.50, heading 0.02, item 1.15, more 0.51, note -1.88, step 1.35, time 0.38, title -0.04
yields: around -0.73, heading -0.19, item -0.45, note 0.43, step -0.58, title -0.10, yield 1.63
"""
