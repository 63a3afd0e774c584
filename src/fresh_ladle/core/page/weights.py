"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never edit."""

from __future__ import annotations

TABLE = """\
a dish: around -0.66, heading 0.46, item -0.96, more 0.08, note -2.61, step 0.83, title 2.85
a line of words: around 1.27, heading -1.39, item -0.61, more 0.20, note 0.77, title -0.23
a word: around 0.40, item -1.31, more 0.89, step -0.10, time 0.07, title -0.42, yield 0.49
above all: a dish: around -2.06, heading 0.46, item -0.12, more -0.12, note 0.99, step -0.57, title 1.42
above all: a line of words: around 0.38, heading -0.34, item 0.21, more -0.33, note 0.14, step 0.17, title
    -0.23
above all: around: around 1.06, heading -0.19, item 0.07, more -0.03, note -0.81, step -0.11, time 0.54, title
    -0.52
above all: capitals: around -0.98, heading 0.44, item -0.11, list -0.04, note 1.32, title -0.64
above all: colon within: around 1.20, heading -0.05, item -0.06, note -0.18, step -0.04, time 0.46, title
    -1.73, yield 0.42
above all: first person: around -0.24, heading -0.10, note 0.94, step -0.55, title -0.03
above all: full stop: around 0.73, item -0.71, note 0.44, step -0.19, title 0.02, yield -0.30
above all: greeting: around -0.07, heading -0.14, item -0.08, note 1.12, title -0.83
above all: said again: around -0.67, item -0.02, note -0.03, title 0.73
above all: said before: around 0.05, note -0.08, title 0.05
above all: signs: around -0.31, heading -0.09, item 0.32, more -0.03, time 0.18, title -0.06
above all: some words: around -0.14, heading 0.19, item 0.12, more -0.16, note 0.19, step -0.27, time 0.21,
    title -0.04, yield -0.12
above all: tells: around 0.46, heading -0.04, item -1.01, list -0.04, more -0.27, note 1.44, step -0.20, title
    -0.04, yield -0.31
above all: time: around -0.51, more -0.03, time 0.56
above all: title case: around -0.07, heading -0.32, item -0.64, list -0.04, note 0.59, step -0.05, time 0.45,
    title 0.08
above all: two or three words: around 0.20, heading -0.67, item -0.39, list -0.04, note 0.25, step 0.44, time
    0.35, title -0.29, yield 0.16
above all: yields: around -0.56, heading -0.04, item -0.11, note 0.40, title -0.07, yield 0.39
after around: around 2.65, heading -1.58, item -1.05, list -0.22, method -0.27, more -0.23, note -0.07, step
    -0.53, time 0.47, title 2.09, yield -0.71
after around and a blank: around -0.85, heading -0.02, item -0.09, list -0.03, method -0.02, note -0.06, step
    -0.07, time -0.04, title -0.12, yield -0.04
after heading: around -0.75, heading -0.22, item 1.70, method -0.12, more -0.36, note -0.68, step 0.78, time
    -0.07, title -0.03, yield -0.35
after heading and a blank: heading -0.03, item 0.65, note -0.05, step 0.27
after item: around -0.10, heading 0.18, item 1.30, method 0.28, more -0.28, note -1.55, step -0.10, time
    -0.06, title -0.86, yield 0.04
after item and a blank: around -0.09, heading 0.32, item -0.77, method 0.05, note -0.03, step 0.34
after list: around 0.14, heading 0.03, item 0.27, note -0.04, title -0.16
after list and a blank: item 0.17
after method: item -0.15, step 0.17
after more: around -0.18, heading -0.05, item -0.05, more 1.72, note -0.88, step 0.14, yield 0.81
after note: around -0.36, heading -1.30, item -1.00, list -0.08, method -0.23, more -0.14, note 2.46, step
    -1.99, time -0.62, title 1.56, yield 0.07
after note and a blank: around 1.03, heading -0.14, item -0.24, note -0.90, step -0.09, title 0.21
after step: around -0.98, heading 0.80, item -1.61, method -0.38, more 0.78, note 1.31, step 0.50, time -0.39,
    title -0.47, yield -0.63
after step and a blank: around 0.49, heading -0.03, method -0.03, note 0.04, step -0.66
after time: around -0.27, heading 0.54, item 0.51, note -0.40, step -0.12, time 0.54, title -0.40, yield 0.39
after title: around 0.43, heading 0.72, item -0.49, method 0.71, more -0.30, note -1.23, step 0.07, time 0.23,
    title -2.42, yield 2.00
after title and a blank: heading -0.05, item 0.22, method 0.02, note 0.40, step 0.10, time 0.21, title -0.36,
    yield 0.09
after yield: around 0.65, heading 0.94, item -0.33, list 0.55, note 0.28, step -0.13, time 0.70, title -1.51
after yield and a blank: around -0.16, heading 0.90, item 0.03, list 0.19, note 0.04, time 0.07, title -0.76
after: amount first: around -1.76, heading 1.33, item -1.32, more 1.41, note -0.61, step -0.39, time 0.04,
    title 0.73, yield 0.56
after: amount last: around 0.59, heading -0.96, item 0.43, list 0.26, more 0.60, note -0.12, step -0.80, time
    -0.18, title 0.10, yield 0.07
after: blank before: around -1.33, heading 0.81, item -0.18, list 0.16, note -0.14, step -0.20, title 0.59,
    yield 0.30
after: bullet: around 0.16, heading 0.31, item -0.60, list 0.16, more -0.03, note -0.32, title 0.15, yield
    0.15
after: capitals: around -0.24, heading -0.06, item 0.24, note 0.10, step -0.12, title -0.07, yield 0.14
after: colon: around 2.32, heading -0.05, item -0.04, note -0.81, step -0.64, title -0.97, yield 0.18
after: ends open: around -0.40, heading -0.97, item -0.98, list 0.26, more 0.34, note 0.99, step -0.61, time
    0.84, title -0.40, yield 0.94
after: full stop: around 0.40, heading 0.54, list -0.04, more 1.17, note -1.96, step -0.53, time -0.05, title
    0.45, yield 0.04
after: heading mark: item 0.02, note -0.03
after: list word: around -0.22, note -0.04, yield 0.29
after: loose amount: around -0.10, heading -0.42, item 1.06, more -0.47, note 0.46, step -0.07, title -0.51,
    yield 0.05
after: method word: around -0.27, heading -0.12, item 0.28, note -0.23, step -0.38, title 0.71
after: tells: around -0.06, heading -0.22, item 0.11, list -0.04, more -0.54, note 0.38, step 0.62, title
    -0.47, yield 0.20
after: verb first: around -0.90, heading 0.62, item 0.60, more -0.24, note 0.32, step -0.65, time 0.13, title
    0.24, yield -0.11
afterwards: around 2.11, heading -0.58, item -0.13, note 0.60, step -1.19, title -0.81
amount first: around -0.45, heading -0.76, item 1.27, more -0.03, note 0.78, step -0.97, time 0.10, title
    -0.04, yield 0.10
amount last: around -0.54, heading -0.53, item 1.61, note -1.03, step 0.47, title -0.68, yield 0.70
are foods: around -0.06, heading -0.44, item 1.48, more -0.03, step -0.93
around: around 2.95, heading -1.22, item -0.22, more -0.03, note -1.88, step 0.74, time 0.70, title -1.04
as liked: around -0.02, heading -0.16, item 1.80, more 0.02, note -0.18, step -1.45
asks or calls: around 1.23, heading -0.20, note -0.07, step -0.30, title -0.64
before: amount first: around -0.05, heading -1.42, item 0.35, list 0.26, more 1.45, note -0.53, step -0.46,
    time 0.20, title -0.04, yield 0.25
before: amount last: around -0.26, heading 0.14, item 1.16, list 0.26, more 0.20, note -0.86, step 0.11, time
    0.39, title -1.14
before: blank before: around 0.41, heading 0.19, item 0.10, list 0.16, more -0.07, note 0.40, step -0.94, time
    0.20, title -0.61, yield 0.16
before: bullet: around 0.63, heading -0.13, item -0.51, more 0.07, note -0.14, step 0.16, title -0.14, yield
    0.06
before: capitals: around -0.11, item 0.31, more -0.31, note -0.20, step 0.34, time 0.11, title -0.15, yield
    0.03
before: colon: around 0.26, heading -0.15, item 0.17, note -0.29, step -0.48, title 0.48
before: ends in a hyphen: item -0.12, more 0.13
before: ends open: around -0.75, heading -0.47, item 0.10, list 0.26, more 1.21, note -0.32, step -0.34, time
    1.00, title -1.62, yield 0.94
before: full stop: around 0.33, heading 0.87, item -0.57, list -0.04, step -0.40, time -0.20, title -0.51,
    yield 0.53
before: list word: around 0.11, heading 0.03, title -0.16
before: loose amount: around -0.39, heading -0.68, item 0.81, more -0.38, note 0.28, step 0.42, time 0.18,
    title -0.34, yield 0.10
before: method word: item -0.15, step 0.17
before: tells: around 0.58, heading 0.20, item -0.07, list -0.04, more -1.32, note -0.22, step -0.07, time
    0.18, title 0.92, yield -0.16
before: verb first: around 0.17, heading 0.81, item -0.17, more -0.78, note -0.21, step 0.66, time -0.39,
    title 0.26, yield -0.35
blank after: around 0.22, heading -0.21, item -0.80, list 0.16, more -0.30, note 0.50, step -0.67, title 0.32,
    yield 0.77
blank before: around 1.28, heading -0.23, item -0.93, list 0.16, note -0.77, step -0.40, time 0.24, title
    0.61, yield 0.04
bracket: around 1.14, heading -0.39, item -0.04, note -0.93, step -0.30, title 0.28, yield 0.25
bullet: around -0.51, heading -0.80, item 1.97, more -0.21, note -0.34, title -0.12
capitals: around -1.40, heading 1.57, item -0.56, list 0.22, note 1.18, step -0.24, title -0.79
colon: around 0.23, heading 0.38, note 0.38, step -0.17, title -0.83
colon within: around 1.40, heading -0.55, item -0.17, note 1.30, step -1.23, time 0.75, title -2.01, yield
    0.50
comma: around -0.74, heading -1.40, item 0.19, more 0.05, note 1.43, step 0.87, title -0.43, yield 0.03
early: around -0.47, heading -0.55, item -0.60, list 0.26, note 0.40, step -0.95, time 0.38, title 1.02, yield
    0.49
ends in a hyphen: item 0.04, step -0.04
ends like a part: around -1.61, heading 1.12, item -0.53, more 0.25, note 1.04, step -1.20, title 0.94
ends open: around 0.66, heading -0.91, list 0.22, more 0.29, note -2.16, step -1.03, time 1.23, title 0.61,
    yield 1.10
figures of food: around 2.14, item -0.29, note -1.46, step -0.37
first: around 0.89, heading -1.18, item -0.89, note -0.20, step -0.27, title 1.65
first person: around 0.78, heading -0.93, item -0.06, note 1.90, step -1.59, title -0.12
full stop: around -1.15, item -1.63, more 0.92, note 1.82, step 0.17, time -0.44, title 0.02, yield 0.29
greeting: around 0.33, heading -0.17, item -0.12, note 1.00, title -1.04
headed: around -0.66, heading 1.51, item -1.14, note 0.68, step -0.20, title -0.19
heading mark: heading 0.38, item -0.33, note -0.03
is a food: around -0.53, heading -0.18, item 1.11, more 0.69, note -1.01, title -0.06
last: around 1.55, heading -1.02, item -0.62, more -0.30, note 0.64, step -0.46, title -0.27, yield 0.47
late: around -0.15, heading -1.07, item -0.57, more 0.78, note 0.84, step 0.82, time -0.44, title -0.58, yield
    0.37
list word: list -0.04, note 0.04
loose amount: around -0.29, heading -0.55, item 3.10, more -0.85, note -0.82, step -0.17, title -0.43
many words: around -0.27, heading -0.21, item -0.31, more -0.04, note -0.42, step 1.70, title -0.03, yield
    -0.41
measured: around -0.75, heading -0.36, item 2.33, note -0.77, step -0.36, title -0.53, yield 0.44
note word: around -1.26, heading -0.27, item -0.04, note 3.69, step -2.11
nothing before: around 0.09, heading -0.46, item 0.49, list -0.04, more -0.49, note -0.33, step 0.36, time
    0.56, title -0.56, yield 0.39
numbered: around -0.29, heading 0.04, item 0.44, more -0.22, note -0.99, step 1.98, time -0.11, title -0.85
of a part: around -0.08, heading 1.46, item -0.70, more 0.02, note -0.29, title -0.41
of work: around -1.81, heading 0.87, item -1.18, more 1.34, note -0.30, step 1.56, time 0.79, title -0.86,
    yield -0.41
prepared: around -0.68, heading -0.10, item 0.79, more 0.33, note -0.06, step -0.21, title -0.07
said again: around 0.82, heading -0.99, item -0.59, note -0.06, title 0.83
said before: around 0.22, heading -0.24, item 0.19, note -0.28, step -0.04, title 0.16
second: around 0.10, heading -0.05, item 0.04, more -0.21, note 0.34, step -0.14, time 0.07, title -0.24,
    yield 0.09
several sentences: around -0.41, heading -0.12, item -0.18, more 1.08, note 1.06, step -0.95, title -0.07,
    yield -0.41
signs: around 0.22, heading -0.09, item 0.71, more -0.03, note -1.05, step -0.10, time 0.39, title -0.07
small first: around -2.62, heading -2.35, item 1.71, more 1.23, note 1.82, step 0.67, title -0.46
some words: around 1.03, heading -0.61, item 0.69, more -0.06, note -1.55, step -0.56, time 0.42, title 0.43,
    yield 0.22
tabs: around 0.07, heading -0.47, item 0.78, note -0.11, step -0.05, title -0.22
tells: around 0.75, heading -0.03, item -1.29, list -0.04, more -0.98, note 1.35, step 0.72, title -0.17,
    yield -0.31
time: around -0.91, heading -0.06, item -0.02, more -0.03, note -0.18, step 0.53, time 0.79, title -0.12
title case: around 2.33, heading -0.73, item -2.24, list 0.22, note -0.70, step -0.35, time 0.67, title 0.80
two or three words: around -0.32, heading 1.08, item -0.25, list 0.22, more 0.21, note 0.24, step -2.54, time
    0.31, title -0.29, yield 1.34
verb first: around -0.77, heading 0.61, item -0.38, more 0.13, note -1.39, step 2.76, time -0.35, title -0.61
verb first of all: around -0.74, heading 0.71, item 0.23, more 0.47, note -0.89, step 1.16, time -0.35, title
    -0.57
verb within: around -1.40, heading 0.29, item 0.80, more 0.70, note -1.83, step 1.35, time 0.34, title -0.25
yields: around -0.72, heading -0.37, item -0.18, note 0.30, step -0.53, title -0.13, yield 1.63
"""
