using Keralith.Core.Lifts;
using Xunit;
using static Keralith.Core.Tests.GivenLift;

namespace Keralith.Core.Tests;

/// <summary>What hardware may carry, in a leg and above the legs.</summary>
public class LiftHardwareTests
{
    [Theory]
    [InlineData("5 deg", "round", 1.00, LiftOutcome.Ok)]
    [InlineData("5.1 deg", "round", null, LiftOutcome.NotPermitted)]
    [InlineData("5.1 deg", "screw", 0.70, LiftOutcome.Ok)]
    [InlineData("45 deg", "bolt", 0.70, LiftOutcome.Ok)]
    [InlineData("45.1 deg", "bolt", 0.50, LiftOutcome.Ok)]
    [InlineData("90 deg", "bolt", 0.50, LiftOutcome.Ok)]
    [InlineData("90.1 deg", "bolt", null, LiftOutcome.NotPermitted)]
    public void A_shackle_pulled_to_the_side_carries_less_and_a_round_pin_nothing(
        string pull,
        string pin,
        double? factor,
        LiftOutcome outcome
    )
    {
        var piece = Component($$"""{"kind":"shackle","ratedLoad":"3000 kg","pull":"{{pull}}","pin":"{{pin}}"}""");
        Assert.Equal((outcome, factor is { } f ? (decimal?)(3000 * (decimal)f) : null), (piece.Outcome, piece.Allowed));
    }

    [Theory]
    [InlineData("""{"kind":"shackle","ratedLoad":"3 t","pin":"screw"}""", LiftOutcome.Ask)]
    [InlineData("""{"kind":"shackle","ratedLoad":"3 t","pull":"6 deg"}""", LiftOutcome.Ask)]
    [InlineData("""{"kind":"shackle","ratedLoad":"3 t","collects":"120 deg"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"shackle","ratedLoad":"3 t","collects":"120.1 deg"}""", LiftOutcome.NotPermitted)]
    [InlineData("""{"kind":"hook","ratedLoad":"3 t","collects":"90 deg"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"hook","ratedLoad":"3 t","collects":"90.1 deg"}""", LiftOutcome.NotPermitted)]
    [InlineData("""{"kind":"link","ratedLoad":"3 t","collects":"120 deg"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"link","ratedLoad":"3 t","collects":"121 deg"}""", LiftOutcome.NotPermitted)]
    [InlineData("""{"kind":"turnbuckle","ratedLoad":"3 t"}""", LiftOutcome.Caution)]
    [InlineData("""{"kind":"swivel-hoist-ring","ratedLoad":"3 t"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"load-indicator","ratedLoad":"3 t"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"link"}""", LiftOutcome.Ask)]
    public void What_hardware_is_asked_decides_its_outcome(string component, LiftOutcome outcome) =>
        Assert.Equal(outcome, Component(component).Outcome);

    [Theory]
    [InlineData("5 deg", "true", "true", 1.00, LiftOutcome.Ok)]
    [InlineData("5.1 deg", "true", "true", 0.55, LiftOutcome.Ok)]
    [InlineData("15 deg", "true", "true", 0.55, LiftOutcome.Ok)]
    [InlineData("15.1 deg", "true", "true", 0.25, LiftOutcome.Caution)]
    [InlineData("90 deg", "true", "true", 0.25, LiftOutcome.Caution)]
    [InlineData("90.1 deg", "true", "true", null, LiftOutcome.NotPermitted)]
    [InlineData("5.1 deg", "false", "true", null, LiftOutcome.NotPermitted)]
    [InlineData("5.1 deg", "true", "false", null, LiftOutcome.NotPermitted)]
    [InlineData("5 deg", "false", "false", 1.00, LiftOutcome.Ok)]
    public void An_eye_bolt_pulled_at_an_angle_wants_its_shoulder_on_its_seat(
        string angle,
        string shoulder,
        string seated,
        double? factor,
        LiftOutcome outcome
    )
    {
        var piece = Component(
            $$"""{"kind":"eye-bolt","ratedLoad":"4600 kg","shoulder":{{shoulder}},"seated":{{seated}},"angle":"{{angle}}","outOfPlane":"0 deg"}"""
        );
        Assert.Equal((outcome, factor is { } f ? (decimal?)(4600 * (decimal)f) : null), (piece.Outcome, piece.Allowed));
    }

    [Fact]
    public void An_eye_bolts_angle_is_taken_from_its_leg_as_in_the_top_of_a_level_load()
    {
        Assert.Equal(
            0.55m * 3000,
            Component("""{"kind":"eye-bolt","ratedLoad":"3 t","shoulder":true}""", "75 deg").Allowed
        );
        Assert.Equal(
            0.25m * 3000,
            Component("""{"kind":"eye-bolt","ratedLoad":"3 t","shoulder":true}""", "74.9 deg").Allowed
        );
    }

    [Theory]
    [InlineData(""","outOfPlane":"5 deg" """, LiftOutcome.Ok)]
    [InlineData(""","outOfPlane":"5.1 deg" """, LiftOutcome.NotPermitted)]
    [InlineData(""","hole":"blind","engaged":1.5""", LiftOutcome.Ok)]
    [InlineData(""","hole":"blind","engaged":1.49""", LiftOutcome.NotPermitted)]
    [InlineData(""","hole":"blind" """, LiftOutcome.Ask)]
    [InlineData(""","hole":"blind","engaged":2,"metal":"aluminium" """, LiftOutcome.Ask)]
    [InlineData(""","hole":"blind","engaged":1,"metal":"aluminium" """, LiftOutcome.NotPermitted)]
    [InlineData(""","hole":"through-tapped","engaged":1""", LiftOutcome.Ok)]
    [InlineData(""","hole":"through-tapped","engaged":0.9""", LiftOutcome.Caution)]
    [InlineData(""","hole":"through-tapped","engaged":0.9,"angle":"6 deg" """, LiftOutcome.NotPermitted)]
    [InlineData(""","hole":"through-tapped" """, LiftOutcome.Ask)]
    [InlineData(""","hole":"through" """, LiftOutcome.Caution)]
    public void An_eye_bolt_holds_by_its_thread(string more, LiftOutcome outcome) =>
        Assert.Equal(
            outcome,
            Component($$"""{"kind":"eye-bolt","ratedLoad":"4600 kg","shoulder":true{{more}}}""").Outcome
        );

    [Fact]
    public void A_wire_rope_sling_wants_a_shackle_in_an_eye_bolt_and_a_hook_is_asked_about()
    {
        const string Bolt = """{"kind":"eye-bolt","ratedLoad":"4 t","shoulder":true}""";
        Assert.Equal(LiftOutcome.NotPermitted, Component(Bolt, sling: Rope).Outcome);
        Assert.Equal(
            LiftOutcome.NotPermitted,
            Component("""{"kind":"swivel-hoist-ring","ratedLoad":"4 t"}""", sling: Rope).Outcome
        );
        Assert.Equal(LiftOutcome.Ok, Component(Bolt, sling: Web).Outcome);
        Assert.Equal(
            LiftOutcome.Ask,
            Component(Bolt, sling: Chain.Replace("}", ",\"endFitting\":\"hook\"}", StringComparison.Ordinal)).Outcome
        );
        var shackled = Alike(
            Rope,
            1,
            "90 deg",
            extra: $",\"components\":[{{\"kind\":\"shackle\",\"ratedLoad\":\"4 t\",\"pull\":\"0 deg\"}},{Bolt}]"
        );
        Assert.Equal(LiftOutcome.Ok, shackled.Outcome);
    }

    [Theory]
    [InlineData("shackle", "-4 F", LiftOutcome.Ok)]
    [InlineData("shackle", "-5 F", LiftOutcome.Ask)]
    [InlineData("shackle", "-21 C", LiftOutcome.Ask)]
    [InlineData("eye-bolt", "29 F", LiftOutcome.Ask)]
    [InlineData("eye-bolt", "30 F", LiftOutcome.Ok)]
    [InlineData("hook", "-40 C", LiftOutcome.Ok)]
    [InlineData("load-indicator", "70 F", LiftOutcome.Ask)]
    public void Hardware_in_a_leg_has_its_own_temperatures(string kind, string temperature, LiftOutcome outcome)
    {
        var more = kind == "shackle" ? ",\"pull\":\"0 deg\"" : string.Empty;
        Assert.Equal(
            outcome,
            Component(
                $$"""{"kind":"{{kind}}","ratedLoad":"4 t"{{more}}}""",
                load: $",\"temperature\":\"{temperature}\""
            ).Outcome
        );
    }

    [Theory]
    [InlineData("""{"kind":"hand-chain-hoist","ratedLoad":"3 t","offPlumb":"2 deg"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"hand-chain-hoist","ratedLoad":"3 t","offPlumb":"2.1 deg"}""", LiftOutcome.NotPermitted)]
    [InlineData("""{"kind":"lever-hoist","ratedLoad":"3 t","offPlumb":"40 deg"}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"lifting-point","ratedLoad":"3 t","documented":true}""", LiftOutcome.Ok)]
    [InlineData("""{"kind":"lifting-point","ratedLoad":"3 t"}""", LiftOutcome.Ask)]
    [InlineData("""{"kind":"lifting-point","documented":true}""", LiftOutcome.Ask)]
    [InlineData("""{"kind":"hook","ratedLoad":"3 t","collects":"91 deg"}""", LiftOutcome.NotPermitted)]
    public void What_hangs_above_sees_the_whole_load(string above, LiftOutcome outcome)
    {
        var result = Alike(
            Chain,
            weight: "1000 kg",
            more: $",\"above\":[{above}],\"rigging\":{{\"weight\":\"100 kg\"}}"
        );
        Assert.Equal(outcome, result.Outcome);
        Assert.Equal(1100m, result.Above[0].Demand);
    }

    [Fact]
    public void On_a_tie_what_is_above_is_the_weakest_then_the_first_from_the_top()
    {
        var result = Alike(
            Chain,
            1,
            "90 deg",
            extra: ""","components":[{"kind":"link","ratedLoad":"3 t"}]""",
            more: ""","above":[{"kind":"hook","ratedLoad":"3 t"}]"""
        );
        Assert.Equal((null, "hook"), (result.Weakest!.Leg, result.Weakest.Piece.Kind));
        Assert.Equal(
            "alloy-chain-sling",
            Alike(
                Chain,
                1,
                "90 deg",
                extra: ""","components":[{"kind":"link","ratedLoad":"3 t"}]"""
            ).Weakest!.Piece.Kind
        );
    }
}
