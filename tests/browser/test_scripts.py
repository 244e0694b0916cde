"""Scripts and value nodes in the real interface: editor, completion, errors, controls, ports, printing, wires."""

from playwright.sync_api import expect

from tests.browser.conftest import Bench
from tools.choosing import choose


def write(bench: Bench, text: str) -> None:
    """Replace the text in the editor by typing."""
    editor = bench.page.locator("[data-test=script-text] .cm-content")
    editor.click()
    bench.page.keyboard.press("Control+A")
    bench.page.keyboard.insert_text(text)


def test_a_script_is_written_and_its_controls_appear_at_once(bench: Bench) -> None:
    graph = bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("script")
    page.click("[data-test=edit-script]")
    before = bench.pixels()
    write(bench, "lift: number(0, 2) = 0.6\nif index % 2 == 0:\n    here.position.y += lift\n    here.up = True\n")
    expect(page.locator("[data-test=field-lift]")).to_be_visible()
    bench.settle()
    bench.expect_another_picture(before)
    expect(page.locator("[data-test=script-status]")).to_contain_text(
        "'up' is new: 60 points that the script did not set hold no."
    )
    field = page.locator("[data-test=field-lift] textarea").first
    field.fill("amount")
    expect(page.locator("[data-test=formula-help]")).to_contain_text("there is no 'amount'")
    bench.set("lift", "1.5")
    assert bench.state(graph)["document"]["nodes"]["script_1"]["parameters"]["controls"] == {"lift": 1.5}
    write(bench, "here.position.y += 0.1\n")
    expect(page.locator("[data-test=field-lift]")).to_have_count(0)
    expect(page.locator("[data-test=controls]")).to_contain_text("‘lift’ is not declared any more; its value is kept.")
    write(bench, "lift: number(0, 2) = 0.6\nhere.position.y += lift\n")
    expect(page.locator("[data-test=field-lift] textarea")).to_have_value("1.5")


def test_errors_are_underlined_and_the_last_good_result_stays(bench: Bench) -> None:
    bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("script")
    page.click("[data-test=edit-script]")
    write(bench, "here.position.y += 0.3 * sin(position.x * 9)\n")
    bench.settle()
    good = bench.pixels()
    write(bench, "here.position.y += 0.3 * sine(position.x * 9)\n")
    expect(page.locator(".cm-lintRange-error")).to_be_visible()
    expect(page.locator("[data-test=script-status]")).to_contain_text(
        "line 1: there is no function 'sine'; near it are"
    )
    bench.settle()
    assert (bench.pixels() == good).mean() > 0.99
    expect(page.locator("[data-test=banner]")).to_contain_text("has an error; its last good result is shown.")
    write(bench, "here.position.y += 0.3 * sin(position.x * 9)\n")
    expect(page.locator(".cm-lintRange-error")).to_have_count(0)


def test_completion_offers_what_exists(bench: Bench) -> None:
    bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("set attribute")
    bench.set("name", "cover_value")
    bench.add("script")
    page.click("[data-test=edit-script]")
    write(bench, "")
    page.keyboard.type("here.b = cov", delay=40)
    offer = page.locator(".cm-tooltip-autocomplete li").first
    expect(offer).to_contain_text("cover_value")
    expect(offer).to_contain_text("number")
    offer.click()
    page.keyboard.type(" + geo.clo", delay=40)
    expect(offer).to_contain_text("closest")
    offer.click()
    expect(page.locator(".cm-content")).to_contain_text("here.b = cover_value + geo.closest(")


def test_a_declared_input_becomes_a_port(bench: Bench) -> None:
    graph = bench.new_graph(
        {
            "format": "reticula graph",
            "version": 1,
            "looking_at": "own",
            "dials": {},
            "nodes": {
                "sheet": {"operator": "grid"},
                "ball": {"operator": "sphere"},
                "own": {"operator": "script", "inputs": {"geo": ["sheet"]}, "parameters": {"source": "here.a = 1\n"}},
            },
        }
    )
    page = bench.page
    expect(page.locator("[data-test=card-own] .vue-flow__handle-top")).to_have_count(1)
    page.locator("[data-test=card-own] .title").click()
    page.click("[data-test=edit-script]")
    write(bench, "reef: geometry\nhere.far = reef.closest(position).distance\n")
    expect(page.locator("[data-test=script-status]")).to_contain_text("nothing is connected to 'reef'")
    port = page.locator("[data-test=card-own] .vue-flow__handle-top").nth(1)
    expect(port).to_be_visible()
    bench.settle()
    page.locator("[data-test=card-ball] .vue-flow__handle-bottom").drag_to(port)
    bench.settle()
    assert bench.state(graph)["document"]["nodes"]["own"]["inputs"]["reef"] == ["ball"]
    assert bench.report(graph)["own"]["state"] == "done"


def test_printing_follows_the_selection_and_snippets_fill_an_empty_text(bench: Bench) -> None:
    bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("script")
    page.click("[data-test=edit-script]")
    choose(page, "[data-test=snippets]", label="remove small faces (face)")
    expect(page.locator("[data-test=script-each]")).to_have_attribute("data-chosen", "face")
    write(bench, "print('face', index, area > 0)\nhere.a = 1\n")
    expect(page.locator(".printed")).to_contain_text("Pick a face in the view or the ledger")
    page.click("[data-test=show-ledger]")
    page.click("[data-test=ledger-face]")
    page.locator("[data-test=ledger-row]").nth(4).click()
    page.click("[data-test=show-script]")
    expect(page.locator(".printed")).to_contain_text("face 4 yes")


def test_a_formula_field_tells_what_it_gives_and_completes(bench: Bench) -> None:
    bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("group")
    field = page.locator(".card.open [data-test=field-where] textarea").first
    field.fill("")
    field.press_sequentially("index < 10 and are", delay=30)
    help = page.locator("[data-test=formula-help]")
    expect(help.locator("li").first).to_contain_text("area")
    field.press("Tab")
    field.press_sequentially(" > 0", delay=30)
    expect(help).to_contain_text("gives flag: 10 of 100 (10.0%)")
    field.press_sequentially(" and heta", delay=30)
    expect(help).to_contain_text("there is no 'heta' on faces")


def test_a_formula_becomes_nodes_and_text_again(bench: Bench) -> None:
    graph = bench.new_graph()
    page = bench.page
    bench.add("grid")
    bench.add("displace")
    bench.set("value", "noise(position * 4) + 0.2")
    before = bench.report(graph)["displace_1"]["key"]
    page.hover("[data-test=field-value]")
    page.click("[data-test=as-nodes-value]")
    bench.settle()
    nodes = bench.state(graph)["document"]["nodes"]
    assert nodes["displace_1"]["parameters"]["value"] == {"wire": "maths_value_2"}
    expect(page.locator("[data-test=card-noise_value_1]")).to_contain_text("noise(maths_value_1")
    expect(page.locator(".vue-flow__edge.value")).to_have_count(4)
    assert bench.report(graph)["displace_1"]["state"] == "done"
    page.click("[data-test=as-text-value]")
    bench.settle()
    text = bench.state(graph)["document"]["nodes"]["displace_1"]["parameters"]["value"]["formula"]
    assert text.split("\n")[-1] == "noise_value_1 + 0.2"
    assert before
    assert bench.report(graph)["displace_1"]["state"] == "done"


def test_a_value_node_is_wired_by_dragging(bench: Bench) -> None:
    graph = bench.new_graph(
        {
            "format": "reticula graph",
            "version": 1,
            "looking_at": "raised",
            "dials": {},
            "nodes": {
                "sheet": {"operator": "grid"},
                "amount": {"operator": "number_value", "parameters": {"value": 0.5}},
                "raised": {"operator": "extrude", "inputs": {"geo": ["sheet"]}},
            },
        }
    )
    page = bench.page
    page.locator("[data-test=card-raised] .title").click()
    bench.settle()
    port = page.locator("[data-test=card-raised] .vue-flow__handle.value[data-handleid='=distance']")
    page.locator("[data-test=card-amount] .vue-flow__handle-bottom").drag_to(port)
    bench.settle()
    assert bench.state(graph)["document"]["nodes"]["raised"]["parameters"]["distance"] == {"wire": "amount"}
    assert bench.report(graph)["raised"]["state"] == "done"
    if not page.get_by_label("Cut the wire of distance").is_visible():
        page.locator("[data-test=card-raised] .title").click()
    page.get_by_label("Cut the wire of distance").click()
    bench.settle()
    assert "distance" not in bench.state(graph)["document"]["nodes"]["raised"]["parameters"]
