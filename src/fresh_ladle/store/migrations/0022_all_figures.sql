-- Every figure that is carried may be a target, so the Shelf keeps them all. What it keeps is worked out and is worked out
-- anew.
DELETE FROM shelf_figure;
DELETE FROM shelf_form_food;
DELETE FROM shelf_form;
DELETE FROM shelf_row;
