using Keralith.Core.Custody;
using Keralith.Core.Judgement;

namespace Keralith.Cli.Demo;

/// <summary>What became of the first pieces: worn, condemned, held, released, lost and found.</summary>
public sealed partial class Hollowmere
{
    /// <summary>What became of each piece.</summary>
    private void Tell(DemoPiece piece, int i)
    {
        var months = 38 - (i % 9 * 3);
        switch (i)
        {
            case 1: // Throat opening year by year: watch by now.
                InUse(piece.Wears("leg-1/hook", "hook.throat", 0.29m), months, 40);
                break;
            case 4: // One hook opened beyond the limit, condemned and cut up.
                InUse(piece.Wears("leg-1/hook", "hook.throat", 0.42m), 38, 150);
                At(140, 11, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.CondemnAsync(
                                p.Id,
                                p.Version,
                                "Throat of one hook opened beyond the limit: overloaded. The sling is not worth a new hook.",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                At(133, 15, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.DestroyAsync(
                                p.Id,
                                p.Version,
                                "Every fourth link cut with the disc, hooks cut through the bowl",
                                _people["inspector"],
                                "Scrap bin 2",
                                s,
                                _cancel
                            ),
                        "stores",
                        t
                    )
                );
                break;
            case 7: // A crew's doubt, three days ago.
                InUse(piece, months, 120);
                At(3, 9, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.HoldAsync(
                                p.Id,
                                HoldCause.Doubt,
                                "Fell from the stop-plank crane on to the coping; one link looks flattened",
                                s,
                                _cancel
                            ),
                        "crew",
                        t
                    )
                );
                break;
            case 10: // Removed at the last periodic, waiting in the cage.
                InUse(piece.Wears("leg-1", "chain.link-thickness", 0.37m), 36, 12);
                break;
            case 12: // Tag torn off.
                InUse(piece, months, 200);
                At(6, 14, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.HoldAsync(
                                p.Id,
                                HoldCause.Marking,
                                "Tag torn off at lock 9; only the wire is left",
                                s,
                                _cancel
                            ),
                        "stores",
                        t
                    )
                );
                break;
            case 16: // Stretch in the noise band: held, inspected clean since, waiting for the qualified person.
                InUse(piece.Wears("leg-1", "chain.gauge-difference", 0.14m), 36, 30);
                At(2, 10, t => Inspect(piece, InspectionKind.Periodic, 0, t));
                break;
            case 20: // Condemned, not yet destroyed.
                InUse(piece, months, 75, ("leg-1", "chain.heat"));
                At(60, 10, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.CondemnAsync(
                                p.Id,
                                p.Version,
                                "Arc strike on three links; nobody knows how hot it was",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                break;
            case 24: // Taken over with provisional figures: watch at best.
                InUse(piece.TakenOver(), 20, 90);
                break;
            case 28: // A missing baseline: the measurement held it.
                InUse(piece.Without("baseline:leg-1/hook:hook.throat"), 5, 150);
                break;
            case 31 or 33: // New, to be inspected before first use.
                Register(piece, 4);
                break;
            case 32: // New, its initial inspection begun by the trainee.
                Register(piece, 9);
                At(1, 10, t => Draft(piece, t));
                break;
            case 43: // Pin worn to four fifths of the allowance.
                InUse(piece.Wears("pin", "shackle.wear-pin", 0.27m), 36, 25);
                break;
            case 44: // A record that named the wrong day, corrected the week after.
                InUse(piece, months, 198);
                At(190, 10, t => Correct(piece, t));
                break;
            case 47: // Wrong pin found, removed, the cage.
                InUse(piece, months, 20, ("pin", "shackle.pin-original"));
                break;
            case 52: // Worn bow, destroyed last year.
                InUse(piece.Wears("body", "shackle.wear-body", 0.5m), 36, 320);
                At(315, 9, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.CondemnAsync(
                                p.Id,
                                p.Version,
                                "Bow worn by more than a tenth at the crown",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                At(310, 9, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.DestroyAsync(
                                p.Id,
                                p.Version,
                                "Bow and pin cut through",
                                _people["stores"],
                                "",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                break;
            case 60 or 63:
                Register(piece, 7);
                break;
            default:
                // Most are simply in use: a few overdue, a few due within the month.
                var last = (i % 8) switch
                {
                    2 => 350,
                    5 when i % 3 == 0 => 381,
                    _ => 20 + (i * 37 % 290),
                };
                InUse(piece, months, last);
                break;
        }
    }

    private void InUse(
        DemoPiece piece,
        int monthsOld,
        int daysSinceLast,
        params (string Part, string Criterion)[] lastFaults
    )
    {
        Register(piece, monthsOld * 30);
        At((monthsOld * 30) - 1, 9, t => Inspect(piece, InspectionKind.Initial, 0, t));
        var every = piece.Fields.GetValueOrDefault("serviceClass") == "severe" ? 88 : 360;
        var first = daysSinceLast;
        while (first + every < (monthsOld * 30) - 30)
            first += every;
        for (var ago = first; ago >= daysSinceLast; ago -= every)
        {
            var years = ((monthsOld * 30) - ago) / 365m;
            var faults = ago == daysSinceLast ? lastFaults : [];
            At(ago, 8 + _random.Next(8), t => Inspect(piece, InspectionKind.Periodic, years, t, faults));
        }

        MonthlyChecks(piece, Math.Min(330, (monthsOld * 30) - 20));
    }
}
