using Keralith.Core.Lifts;
using Keralith.Core.People;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Every right of every role.</summary>
public class RightsTableTests
{
    public static TheoryData<Right, string> Table { get; } =
        new()
        {
            { Right.Read, "crew stores trainee inspector qualified admin auditor" },
            { Right.Hold, "crew stores trainee inspector qualified admin" },
            { Right.CheckFrequent, "crew stores inspector qualified" },
            { Right.Register, "stores inspector qualified admin" },
            { Right.ChangeFacts, "inspector qualified" },
            { Right.ChangeFigures, "qualified" },
            { Right.Move, "crew stores inspector qualified admin" },
            { Right.PaintSeason, "inspector qualified" },
            { Right.PlanLift, "crew stores inspector qualified admin" },
            { Right.SignLift, "qualified" },
            { Right.Issue, "stores inspector qualified" },
            { Right.HandOver, "crew stores inspector qualified" },
            { Right.Attach, "stores trainee inspector qualified admin" },
            { Right.AcceptReport, "inspector qualified" },
            { Right.AcceptProvisional, "qualified" },
            { Right.Draft, "trainee inspector qualified" },
            { Right.SignInspection, "inspector qualified" },
            { Right.Retag, "qualified" },
            { Right.CloseDoubt, "inspector qualified" },
            { Right.CloseVerdict, "qualified" },
            { Right.ClosePolicy, "admin" },
            { Right.Recall, "qualified admin" },
            { Right.LockEvidence, "inspector qualified" },
            { Right.ProofTest, "inspector qualified" },
            { Right.Condemn, "qualified" },
            { Right.Destroy, "stores qualified admin" },
            { Right.ReadLedger, "inspector qualified admin auditor" },
            { Right.ReadSettings, "inspector qualified admin auditor" },
            { Right.SetBooks, "admin" },
            { Right.SetLimits, "qualified" },
            { Right.Authorise, "admin" },
            { Right.KeepInstruments, "inspector qualified admin" },
            { Right.SetSeasons, "qualified admin" },
            { Right.ManageTokens, "admin" },
            { Right.ManagePeople, "admin" },
            { Right.ManageStores, "admin" },
            { Right.Operate, "admin" },
        };

    [Theory]
    [MemberData(nameof(Table))]
    public void It_is_the_right_of(Right right, string roles)
    {
        Assert.Equal(roles, string.Join(' ', Enum.GetValues<Role>().Where(r => r.May(right)).Select(Code.Of)));
        foreach (var role in Enum.GetValues<Role>())
            Assert.Equal(role.May(right) ? null : RefusalKind.Forbidden, GivenPeople.Signer(role).Without(right)?.Kind);
    }

    [Fact]
    public void Every_right_has_a_row() =>
        Assert.Equal(Enum.GetValues<Right>().Order(), Table.Select(r => r.Data.Item1).Order());

    [Fact]
    public void An_auditor_changes_nothing() =>
        Assert.Equal(
            [Right.Read, Right.ReadLedger, Right.ReadSettings],
            Enum.GetValues<Right>().Where(r => Role.Auditor.May(r))
        );

    [Fact]
    public void Each_step_of_a_lift_takes_a_right()
    {
        LiftStep[] steps =
        [
            new CheckLift(new HashSet<string>(), null),
            new SignLift(),
            new WeighLift(Quantities.Mass.Parse("1 t"), "cell"),
            new HandOutLift("Maud", null),
            new TryLift(true, false, null, null),
            new EndLift(null),
            new CallOffLift("Wind"),
        ];
        Assert.Equal(
            "PlanLift SignLift PlanLift Issue PlanLift PlanLift PlanLift",
            string.Join(' ', steps.Select(s => s.Takes))
        );
    }
}
