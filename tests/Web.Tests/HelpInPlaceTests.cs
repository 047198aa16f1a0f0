using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Drawings;
using Keralith.Web.Printing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Help where it is wanted: figures when new, units, words and their drawings, labels that can be read.</summary>
public class HelpInPlaceTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_figure_when_new_is_put_on_record_within_the_initial_inspection()
    {
        await using var yard = await WebYard.OpenAsync();
        var fields = Seed.Shackle("HM-0001");
        foreach (var name in fields.Keys.Where(k => k.StartsWith("baseline:", StringComparison.Ordinal)).ToList())
            fields.Remove(name);
        var piece = await yard.RegisterAsync(fields);
        var (draft, _, _) = await yard.DraftAsync(piece, "inspector", DateTimeOffset.UtcNow);
        var inspector = await yard.SignedInAsync("inspector");
        var page = await inspector.PageAsync($"/inspect/{draft}?part=body");
        var criterion = page.QuerySelector("[form=new-figure][name^='figure:']")!.GetAttribute("name")![
            "figure:".Length..
        ];
        async Task<string> PutAsync(string figure) =>
            (
                await inspector.PostAsync(
                    $"/inspect/{draft}?handler=New",
                    new()
                    {
                        ["part"] = "body",
                        ["of"] = criterion,
                        [$"figure:{criterion}"] = figure,
                        [$"basis:{criterion}"] = "catalogue",
                    },
                    $"/inspect/{draft}?part=body"
                )
            ).StatusCode.ToString();
        Assert.Equal("UnprocessableEntity", await PutAsync("about an inch"));
        Assert.Equal("Found", await PutAsync("7/8 in"));
        var known = await yard.App.Services.GetRequiredService<PieceStore>().BaselinesAsync(piece.Id, Cancel);
        Assert.Equal(
            ("7/8 in", BaselineBasis.Catalogue),
            (known[new("body", criterion)].Figure.Length.ToString(), known[new("body", criterion)].Figure.Basis)
        );
        Assert.Empty((await inspector.PageAsync($"/inspect/{draft}?part=body")).QuerySelectorAll("[form=new-figure]"));

        // Once a verdict stands on it, it is a change of facts and is made there.
        await yard.InspectAsync(piece, DateTimeOffset.UtcNow, InspectionKind.Initial, "7/8 in");
        var stores = await yard.SignedInAsync("stores");
        Assert.Equal(System.Net.HttpStatusCode.Forbidden, (await stores.GetAsync($"/inspect/{draft}")).StatusCode);
    }

    [Fact]
    public async Task A_size_without_its_unit_asks_for_it_by_two_presses()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        var asked = await crew.PageAsync("/register/look?size=7/8");
        Assert.Equal(
            ["size in", "size mm"],
            asked.QuerySelectorAll("button[name=unit]").Select(b => b.GetAttribute("value"))
        );
        var answered = await crew.PageAsync("/register/look?size=7/8&unit=size%20in");
        Assert.Contains("HM-0001", answered.QuerySelector("main")!.TextContent, StringComparison.Ordinal);
        Assert.Empty(
            (await crew.PageAsync("/register/look?size=7/8&unit=size%20furlong")).QuerySelectorAll("ul.look li")
        );
    }

    [Fact]
    public void Words_of_things_are_drawn_and_no_drawing_is_of_no_word()
    {
        var drawn = Terms.All.Where(t => TermDrawings.Of(t).ToString()!.Length > 0).ToList();
        Assert.True(drawn.Count > 40, $"{drawn.Count} words are drawn");
        Assert.Equal(
            ["baseline", "first-use", "frequent", "periodic"],
            Terms.All.Except(drawn).Select(t => t.Code).Order()
        );
    }

    public static TheoryData<string> Sizes => [.. LabelSize.All.Select(s => s.Code)];

    [Theory]
    [MemberData(nameof(Sizes))]
    public void A_labels_words_fill_their_box_and_never_leave_it(string code)
    {
        var size = LabelSize.All.Single(s => s.Code == code);
        IReadOnlyList<Words> words =
        [
            new("HM-0001", 1.6, Bold: true, Mono: true),
            new("Alloy chain sling, 9/32 in, 3 legs", 0.8, Most: 2),
            new("12200 lb", 1.3, Bold: true, Mono: true),
            new("3 legs at 60 deg from horizontal", 0.8, Bold: true, Most: 2),
            new("inspect by 2027-11-09", 0.8, Beside: 2.7),
        ];
        var (width, height) = (size.Width * 0.6, size.Height - 5);
        var set = Words.Fit(words, width, height);
        Assert.All(set, l => Assert.InRange(Words.Width(l.Text, l.Type), 0, width + 0.05));
        Assert.InRange(set[^1].Baseline, 0, height);
        Assert.True(set.Zip(set.Skip(1)).All(p => p.Second.Baseline > p.First.Baseline));
        var used = set.Sum(l => l.Type.Size * Words.Leading);
        var widest = set.Max(l => Words.Width(l.Text, l.Type));
        Assert.True(
            used > height * 0.85 || widest > width * 0.97,
            $"{used:0.0} of {height:0.0}, {widest:0.0} of {width:0.0}"
        );
    }

    [Fact]
    public async Task The_back_of_a_label_tells_how_its_piece_is_cared_for()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        async Task<int> PagesAsync(string more) =>
            System
                .Text.Encoding.Latin1.GetString(
                    await (await crew.GetAsync($"/labels/sheet.pdf?marks=HM-0001{more}")).Content.ReadAsByteArrayAsync(
                        Cancel
                    )
                )
                .Split("/Type /Page\n")
                .Length - 1;
        Assert.Equal(2 * await PagesAsync(""), await PagesAsync("&care=true"));
    }
}
