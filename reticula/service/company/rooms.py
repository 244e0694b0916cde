"""The pages that are at each graph, and what wakes them: others who come, go or look elsewhere, and edits."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass

from reticula.workers.ending import Ending

__all__ = ["News", "Person", "Room", "Rooms"]

GONE_AFTER = 45.0
"""Seconds without a question after which a page is taken to be gone."""


@dataclass(frozen=True)
class Person:
    """A page that is at a graph: whose it is, and what it looks at."""

    name: str
    looking_at: str
    level: str


class News(Ending):
    """A question of a page that ends when there is news for it."""

    def __init__(self, room: Room, page: str) -> None:
        super().__init__()
        self.room, self.page = room, page

    def given_up(self) -> None:
        """The page has gone."""
        self.room.leave(self.page)
        self.wake_all()


class Room:
    """The pages that are at one graph. ``version`` counts changes of who is there and where."""

    def __init__(self) -> None:
        self.version = 0
        self.people: dict[str, Person] = {}
        self._seen: dict[str, float] = {}
        self._waiting: list[News] = []
        self._lock = threading.Lock()

    def arrive(self, page: str, person: Person, known: int) -> News:
        """Note where a page is; return what ends when there is news for it."""
        news = News(self, page)
        with self._lock:
            now = time.monotonic()
            gone = [other for other, at in self._seen.items() if at < now - GONE_AFTER and other != page]
            self._seen[page] = now
            for other in gone:
                del self._seen[other], self.people[other]
            changed = bool(gone) or self.people.get(page) != person
            self.people[page] = person
            self._waiting = [one for one in self._waiting if not one.finished.is_set()]
            to_end = self._changed() if changed else []
            if known == self.version:
                self._waiting.append(news)
            else:
                to_end.append(news)
        for one in to_end:
            one.wake_all()
        return news

    def leave(self, page: str) -> None:
        with self._lock:
            if self.people.pop(page, None) is None:
                return
            del self._seen[page]
            to_end = self._changed()
        for one in to_end:
            one.wake_all()

    def tell(self, by: str) -> None:
        """End the questions of all pages but the one that edited the graph."""
        with self._lock:
            to_end = [one for one in self._waiting if one.page != by]
            self._waiting = [one for one in self._waiting if one.page == by]
        for one in to_end:
            one.wake_all()

    def others(self, page: str) -> dict[str, Person]:
        with self._lock:
            return {one: person for one, person in self.people.items() if one != page}

    def _changed(self) -> list[News]:
        self.version += 1
        to_end, self._waiting = self._waiting, []
        return to_end


class Rooms:
    """The rooms of all graphs that somebody is at."""

    def __init__(self) -> None:
        self._rooms: dict[str, Room] = {}
        self._lock = threading.Lock()

    def arrive(self, graph_id: str, page: str, person: Person, known: int) -> News:
        """Note where a page is; return what ends when there is news for it."""
        with self._lock:
            for name, room in self._rooms.items():
                if name != graph_id:
                    room.leave(page)
            self._rooms = {name: room for name, room in self._rooms.items() if room.people}
            return self._rooms.setdefault(graph_id, Room()).arrive(page, person, known)

    def tell(self, graph_id: str, by: str = "") -> None:
        """Tell all who are at a graph that it was edited; the page that did it knows."""
        with self._lock:
            room = self._rooms.get(graph_id)
        if room is not None:
            room.tell(by)
