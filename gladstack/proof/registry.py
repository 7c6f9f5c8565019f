"""All checks, in the order in which they are told. A new one is a file in `checks` and a line here."""

from __future__ import annotations

from gladstack.proof.check import ArtCheck, CutCheck, FilmCheck, OnFilmCheck, PlanCheck, StackCheck
from gladstack.proof.checks import (
    beyond_reach,
    coarse,
    colour_count,
    drifts,
    enclosed,
    far_colour,
    file_remarks,
    film_empty,
    fonts,
    jagged,
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
    mirrored_words,
    needles,
    needless_nodes,
    no_room,
    noisy,
    not_flat,
    nothing_left,
    off_sheet,
    one_film_twice,
    overhang,
    pages,
    pen_colour,
    piled_up,
    put_right,
    seam_held,
    seam_thin,
    short_of_film,
    shrinks_apart,
    size_guess,
    slivers,
    small_pieces,
    stencil_nested,
    thin_only,
    thin_parts,
    thin_rims,
    thin_waste,
    tiny_parts,
    to_get,
    too_fine,
    too_small_to_turn,
    touching,
    unseen,
    unwelded,
    wrong_area,
)

ART_CHECKS: tuple[ArtCheck, ...] = (
    lost.CHECK, enclosed.CHECK, put_right.CHECK, thin_rims.CHECK, noisy.CHECK, not_flat.CHECK, coarse.CHECK,
    film_empty.CHECK, thin_only.CHECK, colour_count.FEWER, colour_count.MANY,
    file_remarks.CHECK, overhang.CHECK, slivers.CHECK, many_colours.CHECK, pages.CHECK, size_guess.CHECK,
    needless_nodes.CHECK, fonts.MISSING, fonts.LENT, unwelded.CHECK, mirrored_words.CHECK, loose_inner_part.CHECK,
    lost_place.CLAIMS, lost_place.STRAYS, lost_place.MENDS,
)  # fmt: skip
"""What is told of each art by itself."""

STACK_CHECKS: tuple[StackCheck, ...] = (made_of_gone.INSIDE, made_of_gone.MADE, loose_word.CHECK, wrong_area.CHECK)
"""What is told of the whole stack."""

FILM_CHECKS: tuple[FilmCheck, ...] = (nothing_left.CHECK, small_pieces.CHECK, too_fine.CHECK)
"""What is told of each film."""

CUT_CHECKS: tuple[CutCheck, ...] = (
    thin_parts.CHECK, tiny_parts.CHECK, needles.SPIKES, touching.CHECK, thin_waste.SLITS, thin_waste.HOLES, needles.CORNERS,
    too_small_to_turn.CHECK, jagged.CHECK,
)  # fmt: skip
"""What is told of each film for the material it is cut from."""

ON_FILM_CHECKS: tuple[OnFilmCheck, ...] = (drifts.CHECK, piled_up.CHECK, unseen.CHECK)
"""What is told of the stack for how its films are laid."""

PLAN_CHECKS: tuple[PlanCheck, ...] = (
    short_of_film.CHECK, lies_over.CHECK, one_film_twice.CHECK, far_colour.CHECK, pen_colour.CHECK, to_get.CHECK,
    no_room.CHECK,
    letters_apart.CHECK, seam_held.CHECK, seam_thin.CHECK, shrinks_apart.CHECK,
    many_nodes.CHECK, off_sheet.CHECK, lay_close.CHECK, stencil_nested.CHECK,
    marks_unread.CHECK, beyond_reach.CHECK,
)  # fmt: skip
"""What is told of the films of a job on their sheets."""
