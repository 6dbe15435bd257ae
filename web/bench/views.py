"""The bench as pages: its tests, and one under way."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from web.bag.models import Lens
from web.bench import usecases
from web.bench.forms import ReadingForm, SaidForm
from web.bench.frames import NoRoom, missing, take_in
from web.bench.kinds import KINDS
from web.bench.kinds.base import Job, Kind
from web.bench.kinds.ways import CHOICES
from web.bench.models import Frame, Test
from web.people.models import Owner
from web.people.owners import OwnedRequest, find, writer
from web.people.quota import Full
from web.planner.steps import shown
from web.ui.fields import read_length
from web.ui.storing import NotStored, storing
from web.ui.templatetags.format import number
from web.ui.throttle import throttled

MOST_BYTES = 60_000_000
_USUAL_DISTANCE = "2 m"


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """What can be tested, what is under way, and what was found."""
    return _page(request)


def _page(request: OwnedRequest, full: str = "", status: int = 200) -> HttpResponse:
    owner = request.owner
    mine = usecases.lenses(owner)
    under_way = Test.objects.filter(owner=owner).select_related("lens")
    context = {
        "screen": "bench",
        "kinds": KINDS.values(),
        "lenses": mine,
        "chosen": usecases.lens_in_hand(owner),
        "attachments": usecases.attachments(owner),
        "tested": [lens for lens in mine if lens.findings],
        "under_way": [(test, KINDS[test.kind]) for test in under_way],
        "full": full,
    }
    return render(request, "bench/page.html", context, status=status)


@require_POST
def begin(request: OwnedRequest) -> HttpResponse:
    """Begin a test of a lens."""
    owner = writer(request)
    found = lens_of(owner, request.POST.get("lens", ""))
    kind = request.POST.get("kind", "shift")
    if kind not in KINDS:
        raise Http404
    try:
        begun = usecases.begin(owner, found, kind, request.POST.get("with", ""))
    except Full as full:
        return _page(request, full.sentence, 422)
    return redirect("bench:test", begun.pk)


@require_safe
def steps(request: OwnedRequest, key: int) -> HttpResponse:
    """How a test is done, one step at a time."""
    test = usecases.of(request.owner, key)
    back = reverse("bench:test", args=[test.pk])
    routine = KINDS[test.kind].routine
    return shown(request, (routine,), back, "bench-steps", name=test.lens.name, home="The test")


@require_safe
def test(request: OwnedRequest, key: int) -> HttpResponse:
    """A test under way: what it found so far, and what from."""
    return _test(request, usecases.of(request.owner, key))


def _test(request: OwnedRequest, test: Test, status: int = 200, **more: Any) -> HttpResponse:
    owner, kind = request.owner, KINDS[test.kind]
    text = request.GET.get("at", "").strip()[:40] or _USUAL_DISTANCE
    wrong = ""
    try:
        distance = read_length(text, owner.units)
    except ValidationError as error:
        wrong, distance = " ".join(error.messages), read_length(_USUAL_DISTANCE, owner.units)
    job = usecases.job_of(owner, test, distance)
    result = kind.find(job)
    context = {
        "screen": "bench",
        "test": test,
        "kind": kind,
        "frames": [(frame, missing(frame, test)) for frame in job.frames],
        "readings": [
            (one, kind.told(one, owner.units), one.pk in result.odd) for one in job.readings
        ],
        "reading_form": _empty_form(kind, job),
        "ways": CHOICES,
        "good": len(job.good),
        "result": result,
        "standard": result.standard(job) if result.ready else None,
        "distance": distance,
        "distance_text": text,
        "distance_wrong": wrong,
        "system": owner.units,
        "circle": job.kit.coc,
        "next_made_up": kind.next(test),
        **more,
    }
    return render(request, "bench/test.html", context, status=status)


_REMEMBERED = ("focal_length_mm", "against")


def _empty_form(kind: Kind, job: Job) -> ReadingForm | None:
    """The form of the next reading, with what stays as it was at the last."""
    if kind.reading is None:
        return None
    form = kind.reading(job.lens, job.system)
    last = job.readings[-1].read if job.readings else {}
    form.initial = {k: last[k] for k in _REMEMBERED if k in last}
    if "focal_length_mm" in form.initial:
        form.initial["focal_length_mm"] = number(form.initial["focal_length_mm"])
    return form


@throttled("frames", "POST")
@require_POST
def frames(request: OwnedRequest, key: int) -> HttpResponse:
    """Take files into a test, each looked at as it comes."""
    test = usecases.of(writer(request), key)
    way = request.POST.get("way", "")
    if KINDS[test.kind].ways and way not in CHOICES:
        raise Http404
    told = []
    for upload in request.FILES.getlist("file"):
        name = str(upload.name)
        if (upload.size or 0) > MOST_BYTES:
            told.append((name, "The file is larger than 60 MB: no frame is."))
            continue
        try:
            with storing():
                frame = take_in(test, name, upload.read(), way)
        except (NoRoom, NotStored) as error:
            told.append((name, error.sentence))
            break
        if frame.wrong:
            told.append((name, frame.wrong))
    if request.headers.get("Accept") == "application/json":
        return JsonResponse({"wrong": [f"{name}: {why}" for name, why in told]})
    if not request.FILES:
        return _test(request, test, 422, told=[("", "Choose the files of your frames first.")])
    return redirect("bench:test", test.pk)


@require_POST
def reading(request: OwnedRequest, key: int) -> HttpResponse:
    """Take a reading down, or out."""
    test = usecases.of(writer(request), key)
    kind = KINDS[test.kind]
    if kind.reading is None:
        raise Http404
    if "out" in request.POST:
        number = request.POST["out"]
        if is_key(number):
            test.readings.filter(pk=int(number)).delete()
        return redirect("bench:test", test.pk)
    form = kind.reading(test.lens, request.owner.units, request.POST)
    if not form.is_valid():
        return _test(request, test, 422, reading_form=form)
    try:
        with storing():
            usecases.read_once(test, form.values)
    except (Full, NotStored) as error:
        return _test(request, test, 422, reading_form=form, told=[("", error.sentence)])
    return redirect(f"{reverse('bench:test', args=[test.pk])}#next-reading")


@throttled("frames", "POST")
@require_POST
def made_up(request: OwnedRequest, key: int) -> HttpResponse:
    """Let the made-up camera take its next frame, or give its next reading."""
    test = usecases.of(writer(request), key)
    kind = KINDS[test.kind]
    taken = kind.made_up(test)
    if request.headers.get("Accept") == "application/json":
        coming = kind.next(test)
        return JsonResponse({"taken": taken, "more": coming is not None, "next": coming or ""})
    return redirect("bench:test", test.pk)


@require_POST
def say(request: OwnedRequest, key: int) -> HttpResponse:
    """Say of a frame what its file did not, or take it out."""
    test = usecases.of(writer(request), key)
    number = request.POST.get("frame", "")
    frame: Frame | None = test.frames.filter(pk=int(number)).first() if is_key(number) else None
    if "out" in request.POST:
        if frame is not None:
            frame.delete()
        return redirect("bench:test", test.pk)
    form = SaidForm(request.POST)
    if not form.is_valid():
        return _test(request, test, 422, said=request.POST, said_wrong=form.errors, of=frame)
    values = {k: v for k, v in form.cleaned_data.items() if v and k != "sensor_mm"}
    if form.cleaned_data.get("sensor_mm") and frame is not None and frame.seen is not None:
        values["pitch_mm"] = form.cleaned_data["sensor_mm"] / max(frame.seen["size"])
    usecases.say(test, frame, values)
    return redirect("bench:test", test.pk)


@require_POST
def keep(request: OwnedRequest, key: int) -> HttpResponse:
    """Keep what a test found with its lens, or as a standard, or give it up."""
    owner = writer(request)
    test = usecases.of(owner, key)
    if "discard" in request.POST:
        test.delete()
        return redirect("bench:page")
    job = usecases.job_of(owner, test, read_length(_USUAL_DISTANCE, owner.units))
    lens = job.lens
    try:
        result = KINDS[test.kind].find(job)
        if "standard" in request.POST:
            return redirect("bag:edit", "standard", usecases.keep_standard(job, result).pk)
        usecases.keep(job, result)
    except Full as full:
        return _test(request, test, 422, told=[("", full.sentence)])
    return redirect("bench:lens", lens.pk)


@require_safe
def small(request: OwnedRequest, key: int, frame: int) -> HttpResponse:
    """A frame, small."""
    test = usecases.of(request.owner, key)
    found: Frame | None = test.frames.filter(pk=frame).first()
    if found is None or not found.small:
        raise Http404
    return jpeg(found.small)


def jpeg(small: bytes | memoryview[int]) -> HttpResponse:
    """A small picture, sent."""
    response = HttpResponse(bytes(small), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=3600"
    return response


def lens_of(owner: Owner, key: str) -> Lens:
    """A lens of an owner that can be tested; a 404 for none."""
    if not is_key(key):
        raise Http404
    found: Lens = find(Lens, owner, int(key), "")
    if found not in usecases.lenses(owner):
        raise Http404
    return found


def is_key(text: str) -> bool:
    """Whether text can be the key of a row."""
    return text.isdecimal() and len(text) < 19
