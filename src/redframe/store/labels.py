"""Records of an option as the label of its product had it when it was planned."""

from __future__ import annotations

from dataclasses import dataclass

from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.product_label import PRODUCT_LABEL, ProductLabel, option_with


@dataclass(frozen=True, slots=True)
class OfOption:
    """A record of an option, and what the label of the product said otherwise."""

    option_id: str
    product_label: ProductLabel | None

    def __post_init__(self) -> None:
        """What is kept as JSON becomes what it is."""
        object.__setattr__(self, "product_label", PRODUCT_LABEL.validate_python(self.product_label))

    @property
    def option(self) -> Option:
        """The option, as the label of its product had it when it was planned."""
        return option_with(self.option_id, self.product_label)
