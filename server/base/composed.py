"""Questions that every reading asks are put together once: composing one takes longer than PostgreSQL does to answer it."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from django.db.models import Model, QuerySet

Row = TypeVar("Row", bound=Model)
SOME_ID = -7_919  # stand-ins: what no question asks for by itself
SOME_UUID = uuid.UUID("5b0d4a52-3f7e-4c0e-9a55-0c5f4b3e7a11")


@dataclass
class Composed(Generic[Row]):
    """A queryset whose SQL is kept. `of` makes it from stand-ins, given by name; what is asked for takes their places."""

    of: Callable[..., QuerySet[Row]]
    stand_ins: Mapping[str, Any]
    _kept: tuple[type[Row], str, list[tuple[str | None, Any]]] | None = field(default=None, init=False)

    def rows(self, **values: Any) -> list[Row]:
        """The rows for these values: instances with the queryset's annotations."""
        if self._kept is None:
            queryset = self.of(**self.stand_ins)
            text, asked = queryset.query.sql_with_params()
            names = [next((name for name, value in self.stand_ins.items() if value == one), None) for one in asked]
            self._kept = queryset.model, str(text), list(zip(names, asked, strict=True))
        model, text, places = self._kept
        return list(model._default_manager.raw(text, [one if name is None else values[name] for name, one in places]))
