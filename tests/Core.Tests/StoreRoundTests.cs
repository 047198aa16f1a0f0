using Keralith.Core.Custody;
using Keralith.Core.People;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Rounds: what hangs in a store against what should.</summary>
public class StoreRoundTests
{
    private static readonly Signer Stores = GivenPeople.Signer(Role.Stores);

    private static RoundPiece Piece(
        string mark,
        string peg = "A-01",
        PieceState state = PieceState.InService,
        string? holder = null,
        bool isExpected = true
    ) => new(mark, new("Main crib", peg), state, holder, isExpected);

    private static RoundSight Sight(RoundPiece piece, string peg = "") => new(piece.Mark, piece, peg);

    [Theory]
    [InlineData(PieceState.New, false, true)]
    [InlineData(PieceState.InService, false, true)]
    [InlineData(PieceState.Held, false, true)]
    [InlineData(PieceState.Missing, false, false)]
    [InlineData(PieceState.Condemned, false, false)]
    [InlineData(PieceState.Destroyed, false, false)]
    [InlineData(PieceState.InService, true, false)]
    public void A_round_looks_for_what_should_hang_there(PieceState state, bool isOut, bool expected) =>
        Assert.Equal(expected, StoreRound.Expects(state, isOut));

    [Fact]
    public void What_was_not_seen_leads_the_list_and_what_is_in_its_place_ends_it()
    {
        var (seen, unseen) = (Piece("HM-0001"), Piece("HM-0002", "A-02"));
        var lines = StoreRound.Standing([seen, unseen], [Sight(seen), new("ZZ-9", null, ""), new("zz-9", null, "")]);
        Assert.Equal(
            [
                new(RoundFinding.NotSeen, "HM-0002", "should hang at Main crib, A-02"),
                new(RoundFinding.Unknown, "ZZ-9", "set it aside"),
                new RoundLine(RoundFinding.Seen, "HM-0001", "Main crib, A-01"),
            ],
            lines
        );
    }

    [Theory]
    [InlineData("", RoundFinding.Seen)]
    [InlineData("a-01", RoundFinding.Seen)]
    [InlineData("A-02", RoundFinding.WrongPeg)]
    public void A_peg_counts_only_where_one_was_said(string peg, RoundFinding finding) =>
        Assert.Equal(
            finding,
            Assert.Single(StoreRound.Standing([Piece("HM-0001")], [Sight(Piece("HM-0001"), peg)])).Finding
        );

    [Fact]
    public void A_piece_without_a_peg_on_record_hangs_on_none_that_is_wrong() =>
        Assert.Equal(
            RoundFinding.Seen,
            Assert.Single(StoreRound.Standing([], [Sight(Piece("HM-0001", peg: ""), "A-02")])).Finding
        );

    [Fact]
    public void Of_one_piece_the_last_sight_counts() =>
        Assert.Equal(
            RoundFinding.Seen,
            Assert
                .Single(
                    StoreRound.Standing(
                        [Piece("HM-0001")],
                        [Sight(Piece("HM-0001"), "B-07"), Sight(Piece("HM-0001"), "A-01")]
                    )
                )
                .Finding
        );

    public static TheoryData<RoundPiece, string> Elsewhere =>
        new()
        {
            { Piece("HM-0001", holder: "North crew"), "out with North crew" },
            { Piece("HM-0001", state: PieceState.Missing), "missing on record" },
            { Piece("HM-0001", state: PieceState.Condemned), "never to be used again" },
            { Piece("HM-0001", state: PieceState.Destroyed), "never to be used again" },
            { Piece("HM-0001", isExpected: false), "belongs to Main crib, A-01" },
        };

    [Theory]
    [MemberData(nameof(Elsewhere))]
    public void What_is_elsewhere_on_record_is_told_with_what_to_do(RoundPiece piece, string words)
    {
        var line = Assert.Single(StoreRound.Standing([], [Sight(piece)]));
        Assert.Equal(RoundFinding.Extra, line.Finding);
        Assert.Contains(words, line.Words, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Main crib", 1, false, null)]
    [InlineData("Main crib", 20_000, false, null)]
    [InlineData("Main crib", 0, false, "Nothing")]
    [InlineData("Main crib", 5, true, "under way")]
    [InlineData(null, 5, false, "Choose the store")]
    [InlineData("", StoreRound.MostChosen, false, null)]
    [InlineData("", StoreRound.MostChosen + 1, false, "At most")]
    public void One_round_of_a_store_goes_on_at_a_time(string? name, int expected, bool underWay, string? words)
    {
        var begun = StoreRound.Begin(name, expected, underWay, Stores);
        Assert.Equal(words is null, begun.Ok);
        if (words is not null)
            Assert.Contains(words, begun.Fault, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public void A_round_closes_once_with_its_list_and_never_before_anything_was_seen()
    {
        var line = new RoundLine(RoundFinding.NotSeen, "HM-0002", "");
        Assert.False(StoreRound.Close("Main crib", isOpen: true, [line], Stores).Ok);
        Assert.False(
            StoreRound.Close("Main crib", isOpen: false, [line with { Finding = RoundFinding.Seen }], Stores).Ok
        );
        var closed = StoreRound.Close(
            "Main crib",
            isOpen: true,
            [.. Enum.GetValues<RoundFinding>().Select(f => new RoundLine(f, Code.Of(f), ""))],
            Stores
        );
        Assert.Equal(
            (1, "not-seen", "wrong-peg", "extra", "unknown"),
            (
                closed.Value.Seen,
                closed.Value.NotSeen.Single(),
                closed.Value.WrongPeg.Single(),
                closed.Value.Extra.Single(),
                closed.Value.Unknown.Single()
            )
        );
    }

    [Theory]
    [InlineData(Role.Crew, true)]
    [InlineData(Role.Stores, true)]
    [InlineData(Role.Trainee, false)]
    [InlineData(Role.Inspector, true)]
    [InlineData(Role.Qualified, true)]
    [InlineData(Role.Admin, true)]
    [InlineData(Role.Auditor, false)]
    public void Who_may_hang_gear_elsewhere_may_walk_a_store(Role role, bool may)
    {
        var by = GivenPeople.Signer(role);
        var line = new RoundLine(RoundFinding.Seen, "HM-0001", "");
        Assert.Equal(may, StoreRound.Begin("Main crib", 1, isUnderWay: false, by).Ok);
        Assert.Equal(may, StoreRound.RefusalToSee(isOpen: true, 1, by) is null);
        Assert.Equal(may, StoreRound.Close("Main crib", isOpen: true, [line], by).Ok);
    }

    [Theory]
    [InlineData(true, 1, true)]
    [InlineData(true, 0, false)]
    [InlineData(false, 1, false)]
    public void Marks_are_seen_on_an_open_round(bool isOpen, int scanned, bool may) =>
        Assert.Equal(may, StoreRound.RefusalToSee(isOpen, scanned, Stores) is null);
}
