using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Register;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Further codes: who binds one, to what, and what a code may not be.</summary>
public class PieceCodeTests
{
    private static readonly Signer Stores = GivenPeople.Signer(Role.Stores);

    [Theory]
    [InlineData(" 04a2b9 ", "04A2B9")]
    [InlineData("(01)0950", "(01)0950")]
    [InlineData("ab", null)]
    [InlineData("abc", "ABC")]
    [InlineData("two words", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void A_code_is_read_without_case_or_blanks_around_it(string? scanned, string? code) =>
        Assert.Equal(code, PieceCode.Read(scanned) is { Ok: true } read ? read.Value : null);

    [Theory]
    [InlineData(PieceCode.Longest, true)]
    [InlineData(PieceCode.Longest + 1, false)]
    public void A_code_has_an_end(int letters, bool read) => Assert.Equal(read, PieceCode.Read(new('7', letters)).Ok);

    [Theory]
    [InlineData(PieceState.New, true)]
    [InlineData(PieceState.InService, true)]
    [InlineData(PieceState.Held, true)]
    [InlineData(PieceState.Missing, true)]
    [InlineData(PieceState.Condemned, false)]
    [InlineData(PieceState.Destroyed, false)]
    public void It_leads_to_gear_that_is_not_retired_and_changes_nothing_else(PieceState state, bool bound)
    {
        var outcome = Bind(state, 0, null, Stores);
        Assert.Equal(bound, outcome.Ok);
        if (bound)
            Assert.Equal(
                (state, "04A2B9", null),
                (outcome.Value.State, ((CodeBound)outcome.Value.Record).Code, outcome.Value.Hold)
            );
    }

    [Theory]
    [InlineData(null, PieceCode.Most - 1, null)]
    [InlineData(null, PieceCode.Most, "take one off")]
    [InlineData("HM-0002", 0, "leads to HM-0002")]
    [InlineData("HM-0001", 0, "already")]
    public void A_code_belongs_to_one_piece_and_a_piece_carries_few(string? taken, int carries, string? words)
    {
        var outcome = Bind(PieceState.InService, carries, taken, Stores);
        Assert.Equal(words is null, outcome.Ok);
        if (words is not null)
            Assert.Contains(words, outcome.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(Role.Crew, false)]
    [InlineData(Role.Trainee, false)]
    [InlineData(Role.Auditor, false)]
    [InlineData(Role.Stores, true)]
    [InlineData(Role.Inspector, true)]
    [InlineData(Role.Qualified, true)]
    [InlineData(Role.Admin, true)]
    public void Who_registers_gear_binds_codes_and_takes_them_off(Role role, bool may)
    {
        var by = GivenPeople.Signer(role);
        Assert.Equal(may, Bind(PieceState.InService, 0, null, by).Ok);
        Assert.Equal(may, PieceCode.TakeOff(PieceState.InService, "04A2B9", true, "Fell off", by).Ok);
        if (!may)
            Assert.Equal(
                RefusalKind.Forbidden,
                PieceCode.Bind("HM-0001", PieceState.InService, PieceCode.Read(""), 0, null, by).Refusal!.Kind
            );
    }

    [Theory]
    [InlineData(true, "Fell off", true)]
    [InlineData(false, "Fell off", false)]
    [InlineData(true, " ", false)]
    [InlineData(true, null, false)]
    public void A_code_comes_off_where_it_is_carried_and_with_a_reason(bool carried, string? reason, bool off) =>
        Assert.Equal(off, PieceCode.TakeOff(PieceState.Destroyed, "04A2B9", carried, reason, Stores).Ok);

    private static Checked<PieceOutcome> Bind(PieceState state, int carries, string? taken, Signer by) =>
        PieceCode.Bind("HM-0001", state, PieceCode.Read("04a2b9"), carries, taken, by);
}
