"""All checks, in the order in which they are told. A new one is a file in `checks` and a line here."""

from __future__ import annotations

from gladstack.proof.check import ArtCheck, FilmCheck, PlanCheck, StackCheck
from gladstack.proof.checks import (
    beyond_reach,
    colour_count,
    enclosed,
    far_colour,
    file_remarks,
    film_empty,
    fonts,
    lay_close,
    letters_apart,
    lies_over,
    loose_inner_part,
    loose_word,
    lost,
    lost_place,
    made_of_gone,
    many_colours,
    many_nodes,
    marks_unread,
    no_room,
    noisy,
    not_flat,
    nothing_left,
    off_sheet,
    one_film_twice,
    overhang,
    pages,
    put_right,
    seam_held,
    short_of_film,
    size_guess,
    slivers,
    small_pieces,
    stencil_nested,
    thin_rims,
    to_get,
    too_fine,
    unwelded,
    wrong_area,
)

ART_CHECKS: tuple[ArtCheck, ...] = (
    lost.CHECK, enclosed.CHECK, put_right.CHECK, thin_rims.CHECK, noisy.CHECK, not_flat.CHECK, film_empty.CHECK,
    colour_count.FEWER, colour_count.MANY,
    file_remarks.CHECK, overhang.CHECK, slivers.CHECK, many_colours.CHECK, pages.CHECK, size_guess.CHECK,
    fonts.MISSING, fonts.LENT, unwelded.CHECK, loose_inner_part.CHECK,
    lost_place.CLAIMS, lost_place.MENDS,
)  # fmt: skip
"""What is told of each art by itself."""

STACK_CHECKS: tuple[StackCheck, ...] = (made_of_gone.INSIDE, made_of_gone.MADE, loose_word.CHECK, wrong_area.CHECK)
"""What is told of the whole stack."""

FILM_CHECKS: tuple[FilmCheck, ...] = (nothing_left.CHECK, small_pieces.CHECK, too_fine.CHECK)
"""What is told of each film."""

PLAN_CHECKS: tuple[PlanCheck, ...] = (
    short_of_film.CHECK, lies_over.CHECK, one_film_twice.CHECK, far_colour.CHECK, to_get.CHECK, no_room.CHECK,
    letters_apart.CHECK, seam_held.CHECK, many_nodes.CHECK, off_sheet.CHECK, lay_close.CHECK, stencil_nested.CHECK,
    marks_unread.CHECK, beyond_reach.CHECK,
)  # fmt: skip
"""What is told of the films of a job on their sheets."""
