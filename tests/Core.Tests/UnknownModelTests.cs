using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Sites;
using Xunit;
using Outcome = Keralith.Core.Gear.Outcome;

namespace Keralith.Core.Tests;

/// <summary>
/// A piece whose model is not on record may be of any its maker says something of: the strictest counts, and nothing makes it
/// laxer. ASME removes a hook at 5 % of throat opening; a maker may say otherwise.
/// </summary>
public class UnknownModelTests
{
    private const string Maker = "Orrery Chainworks";

    private static readonly GearFamily Hook = GearFamilies.Find("hook")!;

    private static readonly Site Works = new("Works", [RuleBookShelf.Asme], 0.8m, 30, false, false);

    /// <param name="limits">Such as <c>3 %</c> for all models, <c>T-1: 3 %</c> for one; comma between two.</param>
    private static Site With(string limits) =>
        limits
            .Split(", ")
            .Select(l => l.Split(": "))
            .Aggregate(Works, (site, l) =>
                site.With(
                    new EnteredLimit(
                        LimitOwner.Maker,
                        Maker,
                        l.Length == 1 ? string.Empty : l[0],
                        "hook.throat",
                        l[^1],
                        "Leaflet"
                    )
                )
            );

    private static Case Opened(Site site, string? maker, string? model, decimal percent) =>
        new(
            site.Books,
            InspectionKind.Periodic,
            new GearPiece(Hook, [new("size", new LengthValue(Length.FromMillimetres(20)))]),
            site.LimitsFor(maker, model),
            [
                new(
                    Catalogue.Find("hook.throat")!,
                    "hook",
                    new Measured(Length.FromMillimetres(100 + percent), Length.FromMillimetres(100))
                ),
            ]
        );

    private static Outcome Judged(Case @case) => Assert.Single(Judge.Of(@case).Findings).Outcome;

    [Theory]
    // One model is limited more strictly than the book.
    [InlineData("T-1: 3 %", "T-1", 2.99, false)]
    [InlineData("T-1: 3 %", "T-1", 3, true)]
    [InlineData("T-1: 3 %", "T-2", 4.99, false)]
    [InlineData("T-1: 3 %", null, 2.99, false)]
    [InlineData("T-1: 3 %", null, 3, true)]
    [InlineData("T-1: 3 %", "", 3, true)]
    [InlineData("T-1: 3 %", "-", 3, true)]
    [InlineData("T-1: 3 %", "?", 3.01, true)]
    // Of two models the stricter.
    [InlineData("T-1: 4 %, T-2: 2 %", "T-1", 3.99, false)]
    [InlineData("T-1: 4 %, T-2: 2 %", null, 1.99, false)]
    [InlineData("T-1: 4 %, T-2: 2 %", null, 2, true)]
    // All are limited more strictly, and one less: that one may be another.
    [InlineData("3 %, T-1: 4 %", "T-1", 3.99, false)]
    [InlineData("3 %, T-1: 4 %", "T-2", 3, true)]
    [InlineData("3 %, T-1: 4 %", null, 2.99, false)]
    [InlineData("3 %, T-1: 4 %", null, 3, true)]
    // A model may open further than the book says: known to be that one it may, else the book stands.
    [InlineData("T-1: 8 %", "T-1", 7.99, false)]
    [InlineData("T-1: 8 %", "T-1", 8, true)]
    [InlineData("T-1: 8 %", null, 4.99, false)]
    [InlineData("T-1: 8 %", null, 5, true)]
    // All may open further, and one less far: the book stands, for it may be that one.
    [InlineData("8 %, T-1: 6 %", "T-2", 7.99, false)]
    [InlineData("8 %, T-1: 6 %", "T-1", 6, true)]
    [InlineData("8 %, T-1: 6 %", null, 4.99, false)]
    [InlineData("8 %, T-1: 6 %", null, 5, true)]
    // Said of everything the maker makes, it needs no model; a dash for the model says just that.
    [InlineData("8 %", null, 7.99, false)]
    [InlineData("8 %", null, 8, true)]
    [InlineData("-: 3 %", "T-1", 3, true)]
    [InlineData("-: 3 %", null, 2.99, false)]
    public void It_is_held_to_the_strictest_of_its_makers_models(
        string limits,
        string? model,
        decimal percent,
        bool removed
    )
    {
        var @case = Opened(With(limits), Maker, model, percent);
        Assert.Equal(removed, Judged(@case) == Outcome.Remove);

        // The record says by which limits it was judged, and comes to the same where it is read again.
        var read = CaseReader.Read(CaseWriter.Write(@case));
        Assert.Empty(read.Faults);
        Assert.Equal(Judged(@case), Judged(read.Value!));
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("-")]
    [InlineData("Carrick Wire")]
    public void Another_makers_limits_and_those_of_no_maker_are_none_of_its_own(string? maker)
    {
        Assert.Empty(With("3 %, T-1: 2 %").LimitsFor(maker, null));
        Assert.False(With("T-1: 2 %").AsksForModel(Hook, maker, null));
    }

    [Theory]
    [InlineData("T-1: 3 %", null, true)]
    [InlineData("T-1: 3 %", "-", true)]
    [InlineData("T-1: 3 %", "T-2", false)]
    [InlineData("3 %", null, false)]
    public void Its_page_says_so_where_a_limit_hangs_on_the_model(string limits, string? model, bool says) =>
        Assert.Equal(says, With(limits).AsksForModel(Hook, Maker, model));

    [Theory]
    [InlineData("T-1", "hook", null, true)]
    [InlineData("T-1", "", "-", true)]
    [InlineData("T-1", "shackle", null, false)]
    [InlineData("T-1", "hook", "T-2", false)]
    [InlineData("", "hook", null, false)]
    public void Its_page_says_so_where_a_proof_test_hangs_on_the_model(
        string asked,
        string family,
        string? model,
        bool says
    ) =>
        Assert.Equal(
            says,
            Works.With(new EnteredProofAsk(Maker, asked, family, 12, "Sheet 4")).AsksForModel(Hook, Maker, model)
        );

    [Theory]
    [InlineData(null, null, true)]
    [InlineData("", "T-1", true)]
    [InlineData("-", "T-1", true)]
    [InlineData("T-1", null, true)]
    [InlineData("T-1", "?", true)]
    [InlineData("T-1", "t 1", true)]
    [InlineData("T-1.1", "T-11", true)]
    [InlineData("T-1", "T-2", false)]
    public void What_is_asked_of_a_model_may_mean_one_not_on_record(string? asked, string? onRecord, bool means) =>
        Assert.Equal(means, Spelling.MayMean(asked, onRecord));
}
