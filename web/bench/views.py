"""The bench as pages: its tests, one under way, the target to print, and what was found."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse, HttpResponseRedirect, JsonResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from drawing import target
from drawing.shift_chart import drawn
from web.bag.models import Lens
from web.bench import results, usecases
from web.bench.forms import SaidForm
from web.bench.frames import NoRoom, missing, take_in
from web.bench.models import Frame, Test, Thumbnail
from web.bench.steps import SHIFT
from web.people.models import Owner
from web.people.owners import OwnedRequest, find, writer
from web.people.quota import Full
from web.planner.steps import shown
from web.ui import printing
from web.ui.fields import read_length
from web.ui.storing import NotStored, storing
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
    context = {
        "screen": "bench",
        "lenses": mine,
        "tested": [lens for lens in mine if lens.findings],
        "under_way": Test.objects.filter(owner=owner).select_related("lens"),
        "full": full,
        "out": _put_back(request),
    }
    return render(request, "bench/page.html", context, status=status)


@require_POST
def begin(request: OwnedRequest) -> HttpResponse:
    """Begin a test of a lens."""
    owner = writer(request)
    lens = _lens(owner, request.POST.get("lens", ""))
    try:
        return redirect("bench:test", usecases.begin(owner, lens).pk)
    except Full as full:
        return _page(request, full.sentence, 422)


@require_safe
def steps(request: OwnedRequest, key: int) -> HttpResponse:
    """How to take the frames, one step at a time."""
    test = usecases.of(request.owner, key)
    back = reverse("bench:test", args=[test.pk])
    return shown(request, (SHIFT,), back, "bench", name=test.lens.name, home="The test")


@require_safe
def test(request: OwnedRequest, key: int) -> HttpResponse:
    """A test under way: what it found so far, and its frames."""
    return _test(request, usecases.of(request.owner, key))


def _test(request: OwnedRequest, test: Test, status: int = 200, **more: Any) -> HttpResponse:
    owner = request.owner
    frames = usecases.frames_of(test)
    text = request.GET.get("at", "").strip()[:40] or _USUAL_DISTANCE
    wrong = ""
    try:
        distance = read_length(text, owner.units)
    except ValidationError as error:
        wrong, distance = " ".join(error.messages), read_length(_USUAL_DISTANCE, owner.units)
    kit = usecases.kit_for(owner, test)
    result = results.of(test, frames, kit, distance, owner.units)
    chart = None if result.series is None else drawn(
        [(line.f_number, line.shift, line.error) for line in result.lines], kit.coc
    )  # fmt: skip
    context = {
        "screen": "bench",
        "test": test,
        "frames": [(frame, missing(frame, test)) for frame in frames],
        "good": sum(frame.seen is not None for frame in frames),
        "result": result,
        "chart": chart,
        "distance": distance,
        "distance_text": text,
        "distance_wrong": wrong,
        "system": owner.units,
        "circle": kit.coc,
        "next_made_up": usecases.next_made_up(test),
        **more,
    }
    return render(request, "bench/test.html", context, status=status)


@throttled("frames", "POST")
@require_POST
def frames(request: OwnedRequest, key: int) -> HttpResponse:
    """Take files into a test, each looked at as it comes."""
    test = usecases.of(writer(request), key)
    told = []
    for upload in request.FILES.getlist("file"):
        name = str(upload.name)
        if (upload.size or 0) > MOST_BYTES:
            told.append((name, "The file is larger than 60 MB: no frame is."))
            continue
        try:
            with storing():
                frame = take_in(test, name, upload.read())
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


@throttled("frames", "POST")
@require_POST
def made_up(request: OwnedRequest, key: int) -> HttpResponse:
    """Let the made-up camera take its next frame."""
    test = usecases.of(writer(request), key)
    frame = usecases.take_made_up(test)
    if request.headers.get("Accept") == "application/json":
        left = usecases.next_made_up(test)
        return JsonResponse({"taken": frame is not None, "more": left is not None})
    return redirect("bench:test", test.pk)


@require_POST
def say(request: OwnedRequest, key: int) -> HttpResponse:
    """Say of a frame what its file did not, or take it out."""
    test = usecases.of(writer(request), key)
    number = request.POST.get("frame", "")
    frame = test.frames.filter(pk=int(number)).first() if _is_key(number) else None
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
    """Keep what a test found with its lens, or give it up."""
    owner = writer(request)
    test = usecases.of(owner, key)
    if "discard" in request.POST:
        test.delete()
        return redirect("bench:page")
    kit = usecases.kit_for(owner, test)
    distance = read_length(_USUAL_DISTANCE, owner.units)
    result = results.of(test, usecases.frames_of(test), kit, distance, owner.units)
    lens = test.lens
    try:
        usecases.keep(test, result)
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
    return _jpeg(found.small)


@require_safe
def thumbnail(request: OwnedRequest, key: int) -> HttpResponse:
    """A frame that a finding was made of, small."""
    found: Thumbnail = find(Thumbnail, request.owner, key, "")
    return _jpeg(found.small)


def _jpeg(small: bytes | memoryview[int]) -> HttpResponse:
    response = HttpResponse(bytes(small), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=3600"
    return response


@require_safe
def lens(request: OwnedRequest, key: int) -> HttpResponse:
    """What tests found of a lens."""
    return _lens_page(request, _lens(request.owner, str(key)))


def _lens_page(request: OwnedRequest, lens: Lens) -> HttpResponse:
    context = {
        "screen": "bench",
        "lens": lens,
        "found": usecases.shown_findings(lens),
        "together": usecases.together(lens),
        "out": _put_back(request),
        "system": request.owner.units,
    }
    return render(request, "bench/lens.html", context)


@require_POST
def found(request: OwnedRequest, key: int) -> HttpResponse:
    """Use a finding of a lens or leave it out, take it out, or put it back."""
    lens = _lens(writer(request), str(key))
    which = request.POST.get("finding", "")
    if "used" in request.POST:
        usecases.switch(lens, which, request.POST["used"] == "1")
    elif "out" in request.POST:
        request.session["bench_out"] = {"lens": lens.pk, "finding": usecases.take_out(lens, which)}
    elif "back" in request.POST:
        gone = request.session.pop("bench_out", None)
        if gone and gone["lens"] == lens.pk and gone["finding"]:
            usecases.put_back(lens, gone["finding"])
    return HttpResponseRedirect(reverse("bench:lens", args=[lens.pk]))


def _put_back(request: OwnedRequest) -> Any:
    """What was taken out last, while it can be put back."""
    gone = request.session.get("bench_out")
    return gone if gone and gone.get("finding") else None


@require_safe
def target_page(request: OwnedRequest) -> HttpResponse:
    """The target, to be printed from the browser."""
    context = {"screen": "target", **_target("a4")}
    return render(request, "bench/target_page.html", context)


@throttled("pdf")
@require_safe
def target_pdf(request: OwnedRequest, paper: str) -> HttpResponse:
    """The target at its true size, as a PDF."""
    if paper not in target.PAPERS:
        raise Http404
    html = render_to_string("bench/target.html", {**_target(paper), "ours": printing.OURS})
    return printing.answered(request, lambda: printing.pdf(lambda _: html), f"target-{paper}")


def _target(paper: str) -> dict[str, Any]:
    width, height = target.PAPERS[paper]
    foot = -target.CHECK_Y
    return {
        "paper": paper,
        "width": width,
        "height": height,
        "box": f"{-width / 2} {-height / 2} {width} {height}",
        "target": target.picture(),
        "check_top": foot - 1.5,
        "words_y": foot + 5.0,
        "far_y": -foot,
    }


def _lens(owner: Owner, key: str) -> Lens:
    """A lens of an owner that can be tested; a 404 for none."""
    if not _is_key(key):
        raise Http404
    found: Lens = find(Lens, owner, int(key), "")
    if found not in usecases.lenses(owner):
        raise Http404
    return found


def _is_key(text: str) -> bool:
    return text.isdecimal() and len(text) < 19
