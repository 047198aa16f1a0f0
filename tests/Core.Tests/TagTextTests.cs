using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Testing;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A tag pasted as it stands: what can be told is proposed, what can't is left open.</summary>
public class TagTextTests
{
    [Theory]
    [InlineData(
        "PELLOW FORGE 3/8 IN GR 100 2 LEG 60 DEG 15 200 LB REACH 6 FT SN K-4471",
        "grade=100 legs=2 ratedAngle=60_deg ratedHitch=vertical ratedLoad=15200_lb reach=6_ft serial=K-4471 size=3/8_in"
    )]
    [InlineData(
        "10 mm G80 single leg WLL 3.15 t vertical S/N 00417 2 m",
        "grade=80 legs=1 ratedHitch=vertical ratedLoad=3.15_t reach=2_m serial=00417 size=10_mm"
    )]
    [InlineData(
        "Polyester web 50 mm\nvertical 2 t\nchoker 1.6 t\nbasket 4 t\n7:1",
        "designFactor=7 fiber=polyester ratedHitch=vertical ratedLoad=2_t size=50_mm tagRatings=choker_1.6_t|basket_4_t"
    )]
    [InlineData("1-1/4\" 12 short ton serial no. AB12", "ratedLoad=12_short_ton serial=AB12 size=1-1/4_in")]
    [InlineData("four leg sling, 45°", "legs=4 ratedAngle=45_deg ratedHitch=vertical")]
    [InlineData("basket 60 deg 4 t", "tagRatings=basket_60_deg_4_t")]
    [InlineData("4 t basket", "")]
    [InlineData("vertical 2 t choker 1.6 t", "ratedHitch=vertical ratedLoad=2_t tagRatings=choker_1.6_t")]
    [InlineData(
        "2 leg 60 deg 3 t\nbasket 45 deg 4.2 t",
        "legs=2 ratedAngle=60_deg ratedHitch=vertical ratedLoad=3_t tagRatings=basket_45_deg_4.2_t"
    )]
    [InlineData("no words that tell anything", "")]
    [InlineData("", "")]
    public void What_a_tag_says_fills_its_fields(string tag, string fields) =>
        Assert.Equal(
            fields,
            string.Join(
                ' ',
                TagText
                    .Read(tag)
                    .OrderBy(f => f.Key, StringComparer.Ordinal)
                    .Select(f => $"{f.Key}={f.Value.Replace(' ', '_').Replace('\n', '|')}")
            )
        );

    [Fact]
    public void Text_longer_than_any_tag_says_nothing() =>
        Assert.Empty(TagText.Read(new string('1', TagText.Longest) + " t"));

    [Fact]
    public void What_is_filled_is_read_by_the_form_as_it_would_be_typed()
    {
        var form = EveryFamily.Form(GearFamilies.Find("alloy-chain-sling")!, "HM-0001");
        foreach (var (field, value) in TagText.Read("1/2 IN GR 100 2 LEG 60 DEG 26 000 LB 5:1 SN Q-1 reach 8 ft"))
            form[field] = value;
        var (entry, faults) = PieceEntryReader.Read(form);
        Assert.True(entry is not null, string.Join("; ", faults));
        Assert.Equal(
            ("1/2 in", "Q-1", 26000m),
            (entry.Gear.Size.ToString(), entry.Serial, entry.RatedLoad!.Value.Pounds)
        );
    }

    [Fact]
    public void A_start_from_another_piece_carries_nothing_that_is_its_own_and_figures_no_better_than_a_twins()
    {
        var form = EveryFamily.Form(GearFamilies.Find("alloy-chain-sling")!, "HM-0001");
        form["notes"] = "Lent by the dockyard";
        form["hasMet"] = "300 F";
        var entry = PieceEntryReader.Read(form).Entry!;
        var start = PieceEntryFields.StartOf(entry);
        foreach (var own in new[] { "mark", "serial", "peg", "notes", "hasMet", "inServiceSince", "lastPeriodic" })
            Assert.False(start.ContainsKey(own), own);
        Assert.DoesNotContain(start, f => f.Key.StartsWith("tag:", StringComparison.Ordinal));
        start["mark"] = "HM-0002";
        var (other, faults) = PieceEntryReader.Read(start);
        Assert.True(other is not null, string.Join("; ", faults));
        Assert.Equal(entry.Gear.Values.Count, other.Gear.Values.Count);
        Assert.NotEmpty(other.Baselines);
        Assert.DoesNotContain(other.Baselines.Values, b => b.Basis == Judgement.BaselineBasis.New);
        Assert.Empty(other.TagEntries);
    }
}
