"""Texts for people: a message is an id with parameters; the catalogue makes its sentence where it is shown.

Nothing in the core branches on a text. ``str(message)`` is its sentence in the language of the call (``speaking``).
"""

from vivid_lattice.core.messages.catalogue import speaking
from vivid_lattice.core.messages.message import Joined, Message, Text, message
from vivid_lattice.core.messages.vocabulary import Vocabulary

__all__ = ["Joined", "Message", "Text", "Vocabulary", "message", "speaking"]
