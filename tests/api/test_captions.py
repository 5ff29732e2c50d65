"""Captions of films: written, checked, given to readers, taken away and brought back; by whom, and with what."""

from datetime import timedelta
from io import BytesIO

from django.conf.locale import LANG_INFO
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from stillpage.library import tasks
from stillpage.library.models import Captions, File, Item
from stillpage.library.receiving import receive, replace
from stillpage.library.sweeping import sweep
from stillpage.people.models import Role
from stillpage_core.languages import OWN_NAMES, own_name
from stillpage_core.media.captions import read_captions

from .base import ApiTest, a_person
from .test_films import film_bytes, sound_bytes


def cue(begin, end, text, speaker=""):
    return {"begin": begin, "end": end, "text": text, "speaker": speaker, "name": "", "settings": ""}


def times(cues):
    return [(cue["begin"], cue["end"]) for cue in cues]


WORDS = [cue(0, 1000, "The gate opens.", "Piet"), cue(1200, 1900, "Now wait.")]


class OfAnItem(ApiTest):
    def setUp(self):
        super().setUp()
        self.item, _ = receive(BytesIO(film_bytes()), self.author, name="Lock by hand.mov")

    def begun(self, language="en", cues=WORDS, **more):
        return self.call("POST", f"/items/{self.item.pk}/captions", {"language": language, "cues": cues, **more}, 201)

    def test_captions_are_begun_saved_and_read_again(self):
        made = self.begun()
        self.assertEqual((made["name"], made["number"], made["revision"], made["given"]), ("English", 2, 1, ""))
        more = [*made["cues"], cue(1900, 2000, "Good.\n\nVery good.\u0000")]
        saved = self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": more})
        self.assertEqual((saved["revision"], saved["number"]), (2, 3))
        again = self.call("GET", f"/captions/{made['id']}")
        self.assertEqual(again["cues"], [*made["cues"], cue(1900, 2000, "Good.\nVery good.")])
        self.assertEqual([each["id"] for each in self.call("GET", f"/items/{self.item.pk}/captions")], [made["id"]])
        self.assertEqual(len(self.call("GET", "/library?q=gate+opens")["entries"]), 1)

    def test_what_somebody_else_saved_meanwhile_is_not_overwritten(self):
        made = self.begun()
        self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": WORDS[:1]})
        said = self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": []}, 409)
        self.assertIn("since you opened them", said["detail"])
        self.assertEqual(len(self.call("GET", f"/captions/{made['id']}")["cues"]), 1)

    def test_one_of_a_sort_and_language_and_only_of_what_is_heard(self):
        self.begun()
        self.assertIn(
            "already", self.call("POST", f"/items/{self.item.pk}/captions", {"language": "EN"}, 422)["detail"]
        )
        self.begun("en", sort="chapters")
        welsh = self.begun("cy")
        self.assertEqual(welsh["name"], "Cymraeg")
        self.call("PUT", f"/captions/{welsh['id']}", {"revision": 1, "cues": [], "language": "en"}, 422)
        self.call("POST", f"/items/{self.item.pk}/captions", {"language": "<b>"}, 422)
        minutes, _ = receive(BytesIO(b"%PDF-1.4\n%%EOF\n"), self.author, name="minutes.pdf")
        self.assertIn("film", self.call("POST", f"/items/{minutes.pk}/captions", {"language": "en"}, 422)["detail"])

    def test_readers_get_them_by_an_act_and_what_is_written_on_only_by_another(self):
        made = self.begun()
        given = self.call("POST", f"/captions/{made['id']}/readers")
        answer = self.visit_page(given["given"])
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/vtt"))
        first = b"".join(answer.streaming_content)
        self.assertEqual(read_captions(first).cues[0].speaker, "Piet")
        self.assertFalse(given["differs"])
        saved = self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": WORDS[:1]})
        self.assertTrue(saved["differs"])
        self.assertEqual(b"".join(self.visit_page(given["given"]).streaming_content), first)
        later = self.call("POST", f"/captions/{made['id']}/readers")
        self.assertNotEqual(later["given"], given["given"])
        self.assertEqual(len(read_captions(b"".join(self.visit_page(later["given"]).streaming_content)).cues), 1)
        # A page that is open still finds the earlier ones, for a day.
        self.assertEqual(self.visit_page(given["given"]).status_code, 200)
        tasks.clear_away()
        self.assertEqual(self.visit_page(given["given"]).status_code, 200)
        File.objects.filter(version=0).update(made_at=timezone.now() - timedelta(days=2))
        tasks.clear_away()
        self.assertEqual(self.visit_page(given["given"]).status_code, 404)
        self.assertEqual(self.visit_page(later["given"]).status_code, 200)
        back = self.call("DELETE", f"/captions/{made['id']}/readers")
        self.assertEqual((back["given"], back["number"]), ("", 1))

    def test_the_same_words_given_again_after_others_are_there(self):
        made = self.begun()
        first = self.call("POST", f"/captions/{made['id']}/readers")["given"]
        self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": WORDS[:1]})
        self.call("POST", f"/captions/{made['id']}/readers")
        self.call("PUT", f"/captions/{made['id']}", {"revision": 2, "cues": WORDS})
        self.assertEqual(self.call("POST", f"/captions/{made['id']}/readers")["given"], first)
        File.objects.filter(version=0).update(made_at=timezone.now() - timedelta(days=2))
        tasks.clear_away()
        self.assertEqual(self.visit_page(first).status_code, 200)

    def test_nothing_without_words_is_given(self):
        made = self.begun(cues=[cue(500, 500, "Never seen."), cue(0, 1, "")])
        self.assertIn("no cue", self.call("POST", f"/captions/{made['id']}/readers", None, 422)["detail"])

    def test_what_was_taken_away_comes_back(self):
        made = self.begun()
        self.call("POST", f"/captions/{made['id']}/readers")
        self.call("DELETE", f"/captions/{made['id']}", None, 204)
        self.assertEqual(self.call("GET", f"/items/{self.item.pk}/captions"), [])
        self.call("GET", f"/captions/{made['id']}", None, 404)
        self.assertEqual(self.call("GET", "/library?q=gate")["entries"], [])
        back = self.call("POST", f"/captions/{made['id']}/back")
        self.assertEqual((back["cues"], back["given"]), (made["cues"], ""))
        self.call("DELETE", f"/captions/{made['id']}", None, 204)
        self.begun()
        self.call("POST", f"/captions/{made['id']}/back", None, 422)

    def test_a_replaced_film_keeps_its_captions_and_says_that_they_are_older(self):
        made = self.begun()
        given = self.call("POST", f"/captions/{made['id']}/readers")["given"]
        replace(self.item, BytesIO(film_bytes(3)), "Lock again.mov")
        tasks.make_a_film()
        Item.objects.update(shown_since=timezone.now() - timedelta(days=3))
        tasks.clear_away()
        self.assertEqual(self.visit_page(given).status_code, 200)
        (brief,) = self.call("GET", f"/items/{self.item.pk}/captions")
        self.assertTrue(brief["earlier_file"])
        self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": WORDS, "drafted": False})
        self.assertFalse(self.call("GET", f"/captions/{made['id']}")["earlier_file"])

    def test_a_file_that_is_lost_is_written_again(self):
        made = self.begun()
        given = self.call("POST", f"/captions/{made['id']}/readers")["given"]
        self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": []})
        name = given.removeprefix("/media/")
        with default_storage.open(name) as stored:
            before = stored.read()
        default_storage.delete(name)
        sweep(mend=True)
        with default_storage.open(name) as stored:
            self.assertEqual(stored.read(), before)

    def test_checks_drafts_and_transcripts_know_where_the_film_is_loud(self):
        tasks.make_a_film()
        made = self.begun(cues=[])
        self.assertTrue(made["loud"])
        found = self.call("POST", f"/captions/{made['id']}/check", {"cues": []})
        self.assertEqual([note["rule"] for note in found["notes"]], ["uncovered"])
        drafted = self.call("POST", f"/captions/{made['id']}/draft", {"words": "Piet: Open it. Wait for the water."})
        self.assertEqual({row["speaker"] for row in drafted["cues"]}, {"Piet"})
        self.assertLessEqual(drafted["cues"][-1]["end"], 2000)
        self.assertIn("no words", self.call("POST", f"/captions/{made['id']}/draft", {"words": " "}, 422)["detail"])
        words = self.call("POST", "/cues/transcript", {"cues": drafted["cues"]})
        self.assertEqual(words["paragraphs"], ["Piet: Open it. Wait for the water."])
        late = self.call("POST", f"/captions/{made['id']}/check", {"cues": [cue(0, 90_000, "On and on.")]})
        repair = next(note["repair"] for note in late["notes"] if note["repair"])
        self.assertEqual((repair["first"], repair["cues"][0]["end"]), (0, 2000))
        mended = self.call("POST", f"/captions/{made['id']}/mend", {"cues": [cue(0, 90_000, "On and on.")]})
        self.assertEqual(mended["cues"], [cue(0, 2000, "On and on.")])

    def test_files_come_in_and_go_out(self):
        made = self.begun()
        for ending, mime in (("vtt", "text/vtt"), ("srt", "application/x-subrip"), ("txt", "text/plain")):
            answer = self.client.get(f"/api/captions/{made['id']}/file.{ending}")
            self.assertTrue(answer["Content-Type"].startswith(mime))
            self.assertIn(f"Lock by hand.en.{ending}", answer["Content-Disposition"])
            self.assertIn(b"The gate opens.", answer.content)
            if ending != "txt":
                read = self.read(answer.content)
                self.assertEqual(times(read["cues"]), times(WORDS))

    def read(self, data, status=200):
        answer = self.client.post("/api/cues/read", {"file": SimpleUploadedFile("a.vtt", data)})
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def test_a_file_that_is_none_and_one_that_never_ends_are_refused_with_a_sentence(self):
        self.assertIn("WebVTT begins", self.read(b"\x00\x01\x02", 422)["detail"])
        self.assertIn("4 MB", self.read(b"WEBVTT\n\n" + b"x" * 4_200_000, 413)["detail"])
        bomb = b"WEBVTT\n\n" + b"00:00.000 --> 00:01.000\nx\n\n" * 20_001
        self.assertIn("20,000", self.read(bomb, 422)["detail"])
        made = self.begun()
        for cues, said in (
            ([cue(0, 1, "x" * 2001)], "2,001"),
            ([cue(0, 400 * 3_600_000, "x")], "no film"),
            ([cue(0, 1, "x")] * 20_001, ""),
            ([{"begin": 0}], ""),
            ([cue(-1, 1, "x")], ""),
        ):
            self.assertIn(
                said, self.call("PUT", f"/captions/{made['id']}", {"revision": 1, "cues": cues}, 422)["detail"]
            )
        self.assertEqual(Captions.objects.get().cues, made["cues"])

    def test_a_sound_has_them_too_and_who_may_not_describe_items_may_read_them_only(self):
        sound, _ = receive(BytesIO(sound_bytes()), self.author, name="warden.wav")
        made = self.call("POST", f"/items/{sound.pk}/captions", {"language": "en", "cues": WORDS}, 201)
        self.client.force_login(a_person("piet", Role.DESIGNER), "django.contrib.auth.backends.ModelBackend")
        self.call("GET", f"/captions/{made['id']}")
        for method, path, body in (
            ("PUT", "", {"revision": 1, "cues": []}),
            ("POST", "/readers", None),
            ("DELETE", "/readers", None),
            ("DELETE", "", None),
            ("POST", "/back", None),
        ):
            self.call(method, f"/captions/{made['id']}{path}", body, 403)
        self.call("POST", f"/items/{sound.pk}/captions", {"language": "cy"}, 403)


class OwnNames(ApiTest):
    def test_languages_are_called_as_django_has_them(self):
        """Checked against the list of languages that comes with Django."""
        for code, name in OWN_NAMES.items():
            info = LANG_INFO.get(code)
            if info and "name_local" in info:
                self.assertEqual(name.casefold(), info["name_local"].casefold())
        self.assertEqual((own_name("cy"), own_name("cy-GB"), own_name("xyz")), ("Cymraeg", "Cymraeg (GB)", "xyz"))
