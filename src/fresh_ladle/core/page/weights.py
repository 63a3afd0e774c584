"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never edit."""

from __future__ import annotations

TABLE = """\
a dish: around -0.47, heading 0.43, item -1.31, note -2.25, step 0.83, title 2.78
a line of words: around 1.13, heading -1.24, item -0.66, more 0.17, note 0.85, step -0.14, title
    0.31, yield -0.42
a word: around 0.36, heading -0.18, item -1.44, more 1.20, note 0.09, step -0.16, time 0.09, title
    -0.61, yield 0.64
above all: a dish: around -1.72, heading -0.04, item -0.19, more -0.19, note 1.83, step -0.66, title
    0.98
above all: a line of words: around -0.22, heading -0.07, item 0.59, more -0.33, note 0.09, step
    -0.33, title 0.34, yield -0.08
above all: around: around 1.28, heading -0.45, item 0.25, more -0.07, note -0.91, step -0.02, time
    0.56, title -0.62
above all: capitals: around -0.60, heading 0.44, item -0.32, list -0.09, note 1.47, title -0.92
above all: colon within: around 1.36, heading -0.09, item 0.06, more -0.10, note -0.36, step -0.13,
    time 0.37, title -1.57, yield 0.46
above all: first person: heading -0.15, item -0.04, note 0.87, step -0.64, title -0.04
above all: full stop: around 0.24, item -0.62, more 0.09, note 0.52, step 0.05, yield -0.28
above all: greeting: around -0.45, heading -0.09, item -0.07, note 1.64, title -1.04
above all: said again: around -0.42, heading -0.04, note -0.08, title 0.57
above all: said before: around -0.30, heading -0.04, note -0.14, title 0.49
above all: signs: around 0.24, heading -0.21, item 0.45, more -0.07, note -0.55, step -0.04, time
    0.20, title -0.02
above all: some words: around -0.81, heading 0.08, item 0.28, more -0.24, note 0.81, step 0.12, time
    0.23, title -0.55, yield 0.08
above all: tells: around 1.42, heading 0.31, item -0.78, list -0.09, more -0.15, note 0.42, step
    -0.51, title -0.39, yield -0.22
above all: time: around -0.47, more -0.07, time 0.59
above all: title case: around -0.33, heading -0.09, item -0.52, list -0.09, note 0.27, step -0.04,
    time 0.40, title 0.39
above all: two or three words: around -0.11, heading -0.69, item -0.35, list -0.09, more 0.07, note
    0.57, step -0.06, time 0.36, yield 0.29
above all: yields: around -0.55, heading -0.05, item -0.11, note 0.41, step -0.14, title -0.09,
    yield 0.53
after around: around 2.54, heading -1.92, item -1.31, list -0.20, method -0.25, more -0.27, note
    0.56, step -0.60, time 0.14, title 2.51, yield -0.46
after around and a blank: around -0.85, heading -0.09, item -0.08, note -0.04, time -0.08, title
    -0.11, yield -0.10
after heading: around -0.61, heading -0.31, item 1.64, method -0.11, more -0.54, note -0.68, step
    0.90, time -0.23, title -0.04, yield -0.66
after heading and a blank: heading -0.03, item 0.45, note -0.13, step 0.59
after item: around -0.47, heading 0.08, item 1.41, method 0.33, note -1.33, time -0.06, title -1.50
after item and a blank: around -0.30, heading 0.88, item -0.46, method 0.05, step 0.39, title -0.68
after list: around 0.03, heading 0.07, item 0.39, note -0.13, title -0.05
after list and a blank: item 0.14
after method: heading -0.18, item -0.14, step 0.33
after more: around -0.37, heading -0.04, item 0.13, more 1.83, note -0.79, step 0.08, yield 0.78
after note: around -0.51, heading -1.45, item -1.01, list -0.15, method -0.29, more -0.16, note
    1.91, step -2.22, time -0.57, title 2.52, yield 0.64
after note and a blank: around 1.18, heading -0.18, item -0.44, note -1.21, title 0.14
after step: around -1.29, heading 0.98, item -1.79, method -0.50, more 1.08, note 1.29, step 0.53,
    time -0.59, title -0.62, yield -0.84
after step and a blank: around 0.49, method -0.03, note 0.31, step -0.98
after time: around -0.18, heading 0.60, item 0.43, note -0.39, step -0.28, time 0.67, title -0.49,
    yield 0.44
after title: around 1.19, heading 0.92, item -0.09, method 0.82, more -0.56, note -0.84, step 0.05,
    time 0.77, title -3.21, yield 1.66
after title and a blank: around -0.19, item 0.44, more -0.06, note 0.69, step 0.08, time 0.12, title
    -0.22, yield 0.18
after yield: around 0.81, heading 0.71, item -0.35, list 0.68, note 0.03, step -0.05, time 0.69,
    title -1.49
after yield and a blank: around -0.28, heading 0.63, item 0.10, list 0.15, time 0.30, title -0.60
after: amount first: around -1.58, heading 0.39, item -0.96, more 1.33, note -1.03, step -0.02, time
    0.04, title 1.39, yield 0.45
after: amount last: around -0.57, heading -0.35, item -0.06, list 0.40, more 0.92, note -0.99, step
    -0.75, time -0.35, title 1.61, yield 0.14
after: blank before: around -1.39, heading 0.84, item -0.13, list 0.13, note -0.55, step -0.22,
    title 1.03, yield 0.29
after: bullet: around 0.33, heading 0.46, item -1.18, list 0.26, more -0.10, note -0.22, step 0.05,
    time 0.03, title 0.10, yield 0.27
after: capitals: heading -0.07, item 0.03, note -0.88, title 0.70, yield 0.21
after: colon: around 2.58, heading -0.07, item 0.10, note -1.18, step -0.56, time 0.02, title -0.99,
    yield 0.10
after: ends open: around -0.32, heading -0.63, item -0.72, list 0.40, more 0.40, note 1.07, step
    -0.48, time 0.83, title -1.39, yield 0.85
after: full stop: around 0.28, heading 0.95, item 0.04, list -0.09, more 1.22, note -1.49, step
    -0.93, time -0.04, title -0.02, yield 0.07
after: heading mark: item 0.22, note -0.20
after: list word: around -0.23, note -0.03, yield 0.27
after: loose amount: around -0.49, heading -0.59, item 1.14, more -0.80, note 0.69, step 0.40, title
    -0.43, yield 0.08
after: method word: around -0.25, heading -0.11, item 0.33, note -0.29, step -0.50, title 0.82
after: tells: around -0.09, heading -0.42, item -0.03, list -0.09, more -0.38, note 0.58, step 0.36,
    title 0.36, yield -0.29
after: verb first: around -0.48, heading 0.79, item 0.64, more -0.29, note -0.88, step -0.55, time
    0.18, title 0.55, yield 0.02
afterwards: around 1.59, heading -0.45, item -0.05, note 0.25, step -0.30, title -1.04
amount first: around -0.66, heading -1.03, item 1.37, more -0.07, note 1.46, step -1.42, time 0.18,
    title 0.06, yield 0.11
amount last: around -0.18, heading -0.86, item 1.92, more -0.11, note -1.34, step 0.36, title -0.65,
    yield 0.87
are foods: around -0.12, heading -0.37, item 1.64, more -0.06, step -1.06
around: around 2.71, heading -1.12, item -0.40, more -0.07, note -1.62, step 0.68, time 0.68, title
    -0.86
as liked: around -0.09, heading -0.32, item 2.19, more 0.17, note -0.24, step -1.71
asks or calls: around 2.31, heading -0.61, note 0.46, step -2.05, title -0.11
before: amount first: around 0.59, heading -0.74, item 0.45, list 0.40, more 1.36, note -1.87, step
    -0.62, time 0.28, title -0.17, yield 0.33
before: amount last: around -0.02, heading 0.67, item 0.94, list 0.40, more 0.02, note -0.82, step
    -0.20, time 0.38, title -1.37
before: blank before: around 0.69, heading 0.22, item 0.14, list 0.13, more -0.11, note -0.18, step
    -1.07, time 0.40, title -0.43, yield 0.21
before: bullet: around 0.18, heading 0.36, item -1.11, more 0.19, note 0.13, step 0.24, title -0.10,
    yield 0.11
before: capitals: around -0.05, heading 0.28, item 0.41, more -0.57, note -0.36, step 0.55, time
    0.11, title -0.41, yield 0.04
before: colon: around -0.10, heading -0.17, item 0.27, step -0.15, title 0.16
before: ends in a hyphen: item -0.11, more 0.11
before: ends open: around -0.57, heading -0.68, item 0.02, list 0.40, more 1.39, note -0.50, step
    -0.49, time 0.71, title -1.19, yield 0.90
before: full stop: around 0.32, heading 0.96, item -0.58, list -0.09, note -0.17, step -0.53, time
    0.11, title -0.56, yield 0.53
before: list word: around -0.04, heading 0.07, note 0.03, title -0.05
before: loose amount: around 0.51, heading 0.09, item 0.35, more -0.38, note -0.95, step 0.28, time
    0.22, title -0.27, yield 0.14
before: method word: heading -0.18, item -0.14, step 0.33
before: tells: around 0.72, heading 0.64, item 0.26, list -0.09, more -1.51, note -0.27, step -0.55,
    time 0.21, title 0.77, yield -0.19
before: verb first: around 0.61, heading 0.47, item -0.14, more -0.63, note -0.34, step 0.61, time
    -0.62, title 0.25, yield -0.22
blank after: around -0.05, heading -0.11, item -0.46, list 0.13, more -0.23, note 0.28, step -0.27,
    title -0.12, yield 0.83
blank before: around 0.98, heading 0.14, item -1.03, list 0.13, more -0.06, note -0.49, step -0.50,
    time 0.34, title 0.43, yield 0.06
bracket: around 0.86, heading -0.74, item 0.09, more -0.05, note -1.23, step -0.42, title 1.08,
    yield 0.41
bullet: around -0.41, heading -0.95, item 2.55, more -0.26, note -0.24, step -0.24, title -0.45
capitals: around -1.49, heading 1.54, item -0.46, list 0.31, note 1.36, step -0.35, title -0.93
colon: around -0.15, heading 0.73, note 0.69, title -1.27
colon within: around 1.02, heading -0.28, item 0.05, more -0.10, note 1.42, step -1.19, time 0.69,
    title -1.81, yield 0.21
comma: around -0.55, heading -1.10, item 0.36, more 0.24, note 0.94, step 0.75, title -0.67, yield
    0.04
early: around -0.53, heading -0.88, item -0.43, list 0.27, more -0.07, step -0.98, time 0.35, title
    1.72, yield 0.53
ends like a part: around -0.75, heading 1.07, item -1.02, more 0.27, note 0.92, step -1.75, title
    1.27
ends open: around 0.46, heading -0.96, item 0.21, list 0.31, more 0.37, note -1.79, step -0.24, time
    0.96, title -0.15, yield 0.83
figures of food: around 2.28, item -0.29, note -1.19, step -0.37, yield -0.42
first: around 0.93, heading -1.06, item -1.18, note -0.09, step -0.55, title 1.94
first person: around 0.49, heading -0.98, item -0.05, note 1.25, step -0.74
full stop: around -1.45, item -1.85, more 1.01, note 1.46, step 0.64, time -0.14, yield 0.32
greeting: around 0.29, heading -0.11, item -0.09, note 1.12, title -1.21
headed: around -0.91, heading 0.85, note 0.45, title -0.39
heading mark: around -0.04, heading 0.81, item -0.39, note -0.04, title -0.34
is a food: around -1.18, heading -0.05, item 1.64, more 0.18, note -0.31, step -0.03, title -0.25
last: around 1.34, heading -0.95, item -0.33, more -0.23, note 0.83, step -0.05, title -1.15, yield
    0.54
late: around 0.51, heading -1.06, item -0.59, more 0.95, note 1.45, step 1.28, time -0.66, title
    -2.03, yield 0.16
list word: list -0.09, note 0.09
loose amount: around -0.41, heading -0.40, item 3.06, more -0.94, note -0.24, step -0.87, title
    -0.19
many words: around -0.63, heading -0.15, item -0.29, more -0.06, note -0.22, step 1.70, yield -0.34
measured: around -0.53, heading -0.34, item 2.50, more -0.32, note -0.49, step -0.25, title -0.82,
    yield 0.24
note word: around -1.82, heading -0.37, item -0.02, note 4.23, step -2.02
nothing before: around 0.25, heading 0.21, item -0.18, list -0.09, more -0.09, note -0.43, step
    -0.12, time 0.59, title -0.67, yield 0.53
numbered: around -0.69, heading 1.28, item 0.17, more -0.03, note -1.09, step 1.60, time -0.15,
    title -1.09
of a part: around -0.21, heading 1.77, item -0.52, note -0.33, title -0.74
of work: around -2.12, heading 0.30, item -0.86, more 1.57, note 0.09, step 1.45, time 0.82, title
    -0.91, yield -0.34
prepared: around -0.72, heading -0.13, item 0.66, more 0.57, note -0.04, step -0.29, title -0.06
said again: around 0.86, heading -0.57, item -0.88, note -0.08, title 0.69
said before: around -0.06, heading -0.07, item -0.05, note -0.23, step -0.16, title 0.57
second: around 0.11, item -0.89, more -0.24, note 0.83, step -0.14, time 0.04, title 0.14, yield
    0.16
several sentences: around -0.45, heading -0.19, item -0.20, more 1.27, note 0.77, step -0.82, title
    -0.03, yield -0.34
signs: around 0.56, heading -0.21, item 0.84, more -0.07, note -1.37, step -0.13, time 0.41, title
    -0.03
small first: around -2.50, heading -2.98, item 1.86, more 1.46, note 2.27, step 0.95, title -1.06
some words: around 1.12, heading -0.93, item 0.66, more -0.18, note -1.01, step -1.07, time 0.45,
    title 0.76, yield 0.21
tabs: around 0.64, heading -1.10, item 1.03, note -0.06, step -0.05, title -0.45
tells: around 0.30, heading 0.08, item -1.61, list -0.09, more -0.97, note 1.42, step 0.91, title
    0.29, yield -0.32
time: around -0.98, heading -0.08, item -0.04, more -0.07, note -0.05, step 0.48, time 0.82, title
    -0.06
title case: around 2.27, heading -0.97, item -2.00, list 0.31, note -0.63, step -0.54, time 0.65,
    title 0.91
two or three words: around 0.08, heading 0.92, item -0.13, list 0.31, more 0.26, note -0.18, step
    -2.11, time 0.28, title -0.89, yield 1.47
verb first: around -0.68, heading 0.67, item -0.29, more 0.24, note -1.56, step 2.63, time -0.38,
    title -0.62
verb first of all: around -0.65, heading 0.75, item 0.12, more 0.52, note -0.85, step 1.11, time
    -0.38, title -0.62
verb within: around -1.79, heading -0.05, item 0.70, more 0.86, note -0.78, step 1.90, time 0.37,
    title -1.21
yields: around -0.55, heading -0.20, item -0.35, note 0.57, step -0.88, title -0.17, yield 1.56
"""
