"""From films to sheets: where they lie, and the blade."""
