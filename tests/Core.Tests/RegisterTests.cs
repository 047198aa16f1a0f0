using FsCheck.Xunit;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Keralith.Testing;
using Xunit;

namespace Keralith.Core.Tests;

public class RegisterTests
{
    [Fact]
    public void A_piece_is_read_from_its_form()
    {
        var (entry, faults) = PieceEntryReader.Read(Form());
        Assert.Empty(faults);
        Assert.Equal("HM-0042", entry!.Mark.Text);
        Assert.Equal("3/8 in", entry.Gear.Size.ToString());
        Assert.Equal(2, entry.Gear.Legs);
        Assert.Equal("12200 lb", entry.RatedLoad.ToString());
        Assert.Equal(4m, entry.DesignFactor);
        Assert.Equal(ServiceClass.Severe, entry.ServiceClass);
        Assert.Equal(
            new(Length.Parse("11-1/4 in"), BaselineBasis.Twin, 10),
            entry.Baselines[new("leg-1", "chain.gauge-growth")]
        );
        Assert.Equal(["maker", "grade"], entry.TagEntries);
    }

    [Theory]
    [InlineData("4", 4)]
    [InlineData("4:1", 4)]
    [InlineData("4 : 1", 4)]
    [InlineData("2.5:1", 2.5)]
    public void A_design_factor_is_read_as_it_is_marked(string typed, double factor)
    {
        var fields = Form();
        fields["designFactor"] = typed;
        fields["ratedLoad"] = "12 200 lb";
        var entry = PieceEntryReader.Read(fields).Entry!;
        Assert.Equal((decimal)factor, entry.DesignFactor);
        Assert.Equal("12200 lb", entry.RatedLoad.ToString());
    }

    [Theory]
    [InlineData("mark", "HM 42", "mark is 2 to 24")]
    [InlineData("mark", "", "Write the mark")]
    [InlineData("family", "rope", "Choose the family")]
    [InlineData("size", "3/8", "no unit")]
    [InlineData("size", "", "needed to judge")]
    [InlineData("legs", "5", "from 1 to 4")]
    [InlineData("endFitting", "ring", "one of hook, link, shackle")]
    [InlineData("ratedLoad", "5 ton", "short ton")]
    [InlineData("ratedLoad", "-5 t", "over 0")]
    [InlineData("ratedLoad", "0 t", "over 0")]
    [InlineData("designFactor", "0", "between 1 and 20")]
    [InlineData("designFactor", "0.99", "between 1 and 20")]
    [InlineData("designFactor", "20.01", "between 1 and 20")]
    [InlineData("tagRatings", "2 legs 45 deg 14000 lb; sheet K-7", "a kit's own table")]
    [InlineData("ratedAngle", "0 deg", "angle")]
    [InlineData("ratedAngle", "90.1 deg", "angle")]
    [InlineData("designFactor", "4:2", "figure alone")]
    [InlineData("serviceClass", "hard", "normal, heavy or severe")]
    [InlineData("inServiceSince", "04/05/2026", "year-month-day")]
    [InlineData("store", "", "store")]
    [InlineData("baseline:leg-1:chain.gauge-growth", "11,25 in", "comma")]
    [InlineData("baseline:leg-1:chain.gauge-growth", "-1 in", "over 0")]
    [InlineData("links:leg-1:chain.gauge-growth", "ten", "how many links")]
    [InlineData("basis:leg-1:chain.gauge-growth", "guess", "where the figure comes from")]
    public void A_field_that_can_not_stand_is_named_with_words(string field, string value, string words)
    {
        var form = Form();
        form[field] = value;
        var (entry, faults) = PieceEntryReader.Read(form);
        Assert.Null(entry);
        Assert.Contains(words, faults[field], StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("99999", true)]
    [InlineData("100000", true)]
    [InlineData("100001", false)]
    [InlineData("-1", false)]
    public void A_lot_has_up_to_a_hundred_thousand_pieces(string count, bool stands)
    {
        var form = EveryFamily.Form(GearFamilies.Find("shackle")!, "HM-0001");
        form["lotCount"] = count;
        Assert.Equal(!stands, PieceEntryReader.Read(form).Faults.ContainsKey("lotCount"));
    }

    [Theory]
    [InlineData("designFactor", "1")]
    [InlineData("designFactor", "20")]
    [InlineData("ratedAngle", "0.1 deg")]
    [InlineData("ratedAngle", "90 deg")]
    public void A_figure_at_the_end_of_what_can_stand_stands(string field, string value)
    {
        var form = Form();
        form[field] = value;
        Assert.Empty(PieceEntryReader.Read(form).Faults);
    }

    [Fact]
    public void Every_fault_of_a_form_is_named_at_once()
    {
        var form = Form();
        form["mark"] = "?";
        form["size"] = "ten";
        form["ratedLoad"] = "heavy";
        Assert.Equal(["mark", "ratedLoad", "size"], PieceEntryReader.Read(form).Faults.Keys.Order());
    }

    [Theory]
    [InlineData("1", "hook", 5)]
    [InlineData("2", "hook", 9)]
    [InlineData("4", "link", 13)]
    [InlineData("1", "shackle", 5)]
    public void Figures_when_new_are_asked_for_each_leg_and_what_it_ends_in(string legs, string end, int figures)
    {
        var form = Form();
        form["legs"] = legs;
        form["endFitting"] = end;
        Assert.Equal(
            figures,
            PieceEntryReader.BaselinesOf(PieceEntryReader.Gear(GearFamilies.Find("alloy-chain-sling")!, form)).Count()
        );
    }

    [Fact]
    public void What_the_marking_lacks_is_listed_and_a_single_leg_needs_no_count_of_legs()
    {
        var form = Form();
        var two = PieceEntryReader.Read(form).Entry!;
        Assert.Equal(
            ["size", "legs", "ratedLoad", "hitch", "reach", "identification"],
            Tag(two).Missing.Select(e => e.Code)
        );
        form["legs"] = "1";
        Assert.DoesNotContain(Tag(PieceEntryReader.Read(form).Entry! with { TagEntries = [] }).Missing, e =>
            e.Code == "legs"
        );
    }

    [Property]
    public bool No_form_makes_the_reader_throw(string? mark, string? size, string? rated, string? baseline)
    {
        var form = Form();
        form["mark"] = mark ?? "";
        form["size"] = size ?? "";
        form["ratedLoad"] = rated ?? "";
        form["baseline:leg-1:chain.gauge-growth"] = baseline ?? "";
        var (entry, faults) = PieceEntryReader.Read(form);
        return (entry is null) == (faults.Count > 0);
    }

    [Theory]
    [InlineData("hook.crack", "no", null, null, null)]
    [InlineData("hook.crack", null, null, null, "Choose")]
    [InlineData("hook.crack", "perhaps", null, null, "Choose")]
    [InlineData("hook.throat", null, "1.43 in", null, null)]
    [InlineData("hook.throat", null, "1.43", null, "no unit")]
    [InlineData("hook.throat", null, "0 in", null, "over 0")]
    [InlineData("hook.throat", null, null, null, "nothing was written")]
    [InlineData("hook.twist-angle", null, "9 deg", null, null)]
    [InlineData("hook.twist-angle", null, "-9 deg", null, "0 or over")]
    [InlineData("chain.leg-difference", null, "72.1 in", "72 in", null)]
    [InlineData("chain.leg-difference", null, "72.1 in", null, "Shortest leg")]
    [InlineData("chain.leg-difference", null, "71 in", "72 in", "can't be under")]
    public void An_answer_is_read_as_typed_or_refused_with_words(
        string criterion,
        string? answer,
        string? value,
        string? shortest,
        string? refusal
    )
    {
        var read = new AnswerEntry(answer, value, shortest).Read(Catalogue.Get(criterion), null);
        Assert.Equal(refusal is null, read.Ok);
        if (refusal is not null)
            Assert.Contains(refusal, read.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("0.01 in", null)]
    [InlineData("-0.01 in", "0 or over")]
    [InlineData("0.01", "Uncertainty")]
    public void An_uncertainty_is_read_with_its_unit(string uncertainty, string? refusal)
    {
        var read = new AnswerEntry(Value: "1.43 in", Uncertainty: uncertainty).Read(Catalogue.Get("hook.throat"), null);
        Assert.Equal(refusal is null, read.Ok);
        if (refusal is not null)
            Assert.Contains(refusal, read.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public void The_baseline_on_record_goes_with_the_answer()
    {
        var measured = (Measured)
            new AnswerEntry(Value: "1.43 in")
                .Read(Catalogue.Get("hook.throat"), new(Length.Parse("1.375 in"), BaselineBasis.Provisional))
                .Value;
        Assert.Equal((Length.Parse("1.375 in"), BaselineBasis.Provisional), (measured.Baseline!.Value, measured.Basis));
    }

    private static Dictionary<string, string> Form() =>
        new()
        {
            ["mark"] = " hm-0042",
            ["family"] = "alloy-chain-sling",
            ["size"] = "3/8 in",
            ["grade"] = "80",
            ["legs"] = "2",
            ["endFitting"] = "hook",
            ["ratedLoad"] = "12200 lb",
            ["designFactor"] = "4",
            ["serviceClass"] = "severe",
            ["store"] = "1",
            ["peg"] = "A1",
            ["tag:maker"] = "on",
            ["tag:grade"] = "true",
            ["baseline:leg-1:chain.gauge-growth"] = "11-1/4 in",
            ["basis:leg-1:chain.gauge-growth"] = "twin",
            ["links:leg-1:chain.gauge-growth"] = "10",
        };

    [Theory]
    [InlineData("", 1, null)]
    [InlineData("HM-0102 O-2\nHM-0103, O-3\n\nhm-0104", 4, null)]
    [InlineData("HM-0102\nHM-0102", 0, "twice")]
    [InlineData("a?b x", 0, "\"a?b x\"")]
    public void Others_alike_are_read_a_line_each(string alike, int pieces, string? fault)
    {
        var form = Form();
        form[PieceEntryReader.Alike] = alike;
        var (entries, faults) = PieceEntryReader.ReadAlike(form);
        Assert.Equal(pieces, entries.Count);
        if (fault is not null)
            Assert.Contains(fault, faults[PieceEntryReader.Alike], StringComparison.Ordinal);
    }

    [Fact]
    public void A_figure_measured_new_on_the_first_is_a_twins_for_the_others()
    {
        var form = Form();
        form["baseline:leg-1/hook:hook.throat"] = "1-3/8 in";
        form[PieceEntryReader.Alike] = "HM-0102 O-2";
        var entries = PieceEntryReader.ReadAlike(form).Entries;
        Assert.Equal(
            [BaselineBasis.New, BaselineBasis.Twin],
            entries.Select(e => e.Baselines[new("leg-1/hook", "hook.throat")].Basis)
        );
        Assert.Equal(["O-2"], entries.Skip(1).Select(e => e.Serial));
    }

    [Fact]
    public void At_most_fifty_at_once()
    {
        var form = Form();
        form[PieceEntryReader.Alike] = string.Join(
            '\n',
            Enumerable.Range(0, PieceEntryReader.MostAlike).Select(i => $"HM-{2000 + i}")
        );
        Assert.Contains(
            "At most 50",
            PieceEntryReader.ReadAlike(form).Faults[PieceEntryReader.Alike],
            StringComparison.Ordinal
        );
    }

    private static TagTranscription Tag(PieceEntry entry) =>
        new(entry.Gear, entry.TagEntries, entry.RatedLoad, entry.DesignFactor);
}
