using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Data;

namespace Keralith.Cli.Demo;

/// <summary>Six lifts at the locks, put together from what hangs in the stores by the same search people use.</summary>
public sealed partial class Hollowmere
{
    private static readonly (string Name, string Value)[] InFeet = [("massUnit", "lb"), ("unit", "ft")];

    private async Task LiftsAsync(DateTimeOffset evening)
    {
        var lifts = new LiftStore(_database);
        var gate = await LiftAsync(
            lifts,
            "crew",
            6,
            [
                .. InFeet,
                ("name", "Lower gate leaf, lock 9"),
                ("job", "Gate change at lock 9"),
                ("critical", "true"),
                ("basis", "estimated"),
                .. Box(1, "13", "9", "0.75", "green-oak"),
                ("added", "900 lb"),
                ("stand", "points"),
                ("legs", "4"),
                ("hook-x", "6.2"),
                ("hook-y", "4.5"),
                ("hook-z", "11"),
                ("g-x", "6.2"),
                ("g-y", "4.5"),
                ("g-z", "0.3"),
                .. Pick(1, "1", "1", "0.75"),
                .. Pick(2, "12", "1", "0.75"),
                .. Pick(3, "12", "8", "0.75"),
                .. Pick(4, "1", "8", "0.75"),
            ],
            ("alloy-chain-sling", 1, []),
            ("shackle", 4, [("pull", "0")])
        );
        await LiftAsync(
            lifts,
            "stores",
            4,
            [
                .. InFeet,
                ("name", "Coping stone, lock 11"),
                ("job", "Coping at lock 11"),
                ("basis", "estimated"),
                .. Box(1, "5", "2", "1.5", "granite"),
                ("stand", "alike"),
                ("legs", "2"),
                ("angle", "65"),
                ("hitch", "choker"),
                ("chokeAngle", "125"),
                ("contact", "square"),
            ],
            ("alloy-chain-sling", 2, [])
        );
        var paddle = await LiftAsync(
            lifts,
            "crew",
            3,
            [
                .. InFeet,
                ("name", "Paddle gear off its frame, lock 10"),
                ("job", "Paddle gear overhaul"),
                ("basis", "weighed"),
                ("weighed", "620 lb"),
                ("stand", "alike"),
                ("legs", "2"),
                ("angle", "78"),
                ("rigging", "40 lb"),
            ],
            ("alloy-chain-sling", 1, []),
            ("shackle", 2, [("pull", "0")]),
            ("eye-bolt", 2, [("outOfPlane", "0"), ("hole", "blind"), ("engaged", "1.6")])
        );
        var planks = await LiftAsync(
            lifts,
            "crew",
            2,
            [
                .. InFeet,
                ("name", "Stop planks, bundle of eight"),
                ("job", "Dewatering lock 12"),
                ("basis", "estimated"),
                .. Box(1, "15", "1", "0.33", "green-oak"),
                ("part-1-count", "8"),
                ("added", "80 lb"),
                ("stand", "alike"),
                ("legs", "2"),
                ("angle", "55"),
                ("hitch", "choker"),
                ("chokeAngle", "110"),
                ("doubleWrap", "true"),
            ],
            ("web-sling", 2, [])
        );
        await LiftAsync(
            lifts,
            "inspector",
            1,
            [
                .. InFeet,
                ("name", "Pump drifted along the beam"),
                ("job", "Pump house, Basin Yard"),
                ("basis", "marked"),
                ("weight", "650 lb"),
                ("stand", "drift"),
                ("a-x", "0"),
                ("a-z", "11"),
                ("b-x", "6"),
                ("b-z", "11"),
                ("from", "0.8"),
                ("to", "5.2"),
                ("carried", "3"),
            ],
            ("hand-chain-hoist", 2, [("makersAngle", "35")])
        );
        await LiftAsync(
            lifts,
            "stores",
            1,
            [
                .. InFeet,
                ("name", "Crate of gate ironwork"),
                ("job", "To Workboat Teasel"),
                ("basis", "estimated"),
                .. Box(1, "2", "1.5", "0.4", "steel"),
                ("contingency", "15"),
                ("stand", "alike"),
                ("legs", "1"),
                ("angle", "90"),
            ],
            ("cargo-net", 1, []),
            ("hand-chain-hoist", 1, [("offPlumb", "0")])
        );

        // The paddle gear is checked and out; a doubt on a sling of the stop planks tells who planned with it.
        var ready = (await lifts.GetAsync(paddle, _cancel))!;
        var answered = LiftChecklist.Every.Select(i => i.Code).ToHashSet();
        Must(
            await lifts.StepAsync(paddle, ready.Version, new CheckLift(answered, null), Stamp("crew", evening), _cancel)
        );
        if ((await lifts.GetAsync(paddle, _cancel))!.State == LiftState.Checked)
            Must(await lifts.StepAsync(paddle, ready.Version, new SignLift(), Stamp("qualified", evening), _cancel));
        Must(
            await lifts.StepAsync(
                paddle,
                ready.Version,
                new HandOutLift(_people["crew"].Name, _today.AddDays(4)),
                Stamp("stores", evening.AddMinutes(30)),
                _cancel
            )
        );
        if ((await lifts.GetAsync(planks, _cancel))!.Marks is [var doubted, ..])
        {
            Must(
                await _custody.HoldAsync(
                    (await _pieces.FindAsync(doubted, _cancel))!.Id,
                    HoldCause.Doubt,
                    "A stitch looks pulled at the lower eye",
                    Stamp("stores", evening.AddHours(1)),
                    _cancel
                )
            );
        }

        foreach (var like in new[] { gate, planks })
        {
            var fields = (await lifts.GetAsync(like, _cancel))!
                .Fields.Where(f => !f.Key.StartsWith("piece-", StringComparison.Ordinal))
                .ToDictionary();
            fields["name"] = like == gate ? "Gate leaf on four points" : "Bundle in a double-wrapped choker pair";
            Must(await lifts.BeginAsync(fields, true, Stamp("qualified", evening), _cancel));
        }
    }

    private async Task<Guid> LiftAsync(
        LiftStore lifts,
        string by,
        int daysAgo,
        (string Name, string Value)[] typed,
        params (string Family, int Count, (string Name, string Value)[] Facts)[] gear
    )
    {
        var fields = typed.ToDictionary(t => t.Name, t => t.Value);
        var site = (await _sites.GetAsync(_cancel))!;
        var chosen = new Dictionary<string, LiftGear>();
        foreach (var (family, count, facts) in gear)
        {
            var (plan, faults) = LiftPlanReader.Read(fields);
            if (plan is null)
                throw new InvalidOperationException($"{fields["name"]}: {string.Join("; ", faults)}");
            var kind = GearFamilies.Find(family)!;
            var above = kind.Group == FamilyGroup.Hoist && fields["stand"] != "drift";
            var candidates = await _pieces.ListAsync(
                new()
                {
                    Families = [family],
                    WithoutRetired = true,
                    Most = 500,
                },
                _cancel
            );
            var search = GearSearch.Of(
                plan,
                kind,
                above,
                candidates.Select(c => c.OnLift(_today, site)),
                site.Books,
                family == "hand-chain-hoist" && !above ? new RigFacts { MakersAngle = new(35) } : null
            );
            var fits = search
                .Offers.Where(o => o.Needed == count || (LiftGear.RoleOf(kind) != LiftRole.Sling))
                .Where(o => o.Gear.LotCount is null)
                .OrderBy(o => o.Piece.Utilisation > 0.8m)
                .ThenByDescending(o => o.Piece.Utilisation)
                .Take(count)
                .ToList();
            if (fits.Count < count)
                throw new InvalidOperationException($"{fields["name"]}: {fits.Count} of {count} {family} will do.");
            foreach (var fit in fits)
            {
                var before = PlanGear.Rows(fields);
                PlanGear.Place(fields, fit.Gear, chosen);
                chosen[fit.Gear.Mark] = fit.Gear;
                foreach (var row in PlanGear.Rows(fields).Except(before))
                {
                    foreach (var (name, value) in facts)
                        fields[LiftPlanReader.PieceField(row, name)] = value;
                }
            }
        }

        var stamp = Stamp(by, Morning(-daysAgo));
        Must(await lifts.BeginAsync(fields, false, stamp, _cancel));
        return stamp.Submission;
    }

    private DateTimeOffset Morning(int days) => new(_today.AddDays(days).ToDateTime(new(6, 40)), TimeSpan.Zero);

    private static (string, string)[] Box(int part, string a, string b, string c, string of) =>
        [
            ($"part-{part}-shape", "box"),
            ($"part-{part}-a", a),
            ($"part-{part}-b", b),
            ($"part-{part}-c", c),
            ($"part-{part}-density", of),
        ];

    private static (string, string)[] Pick(int n, string x, string y, string z) =>
        [($"pick-{n}-x", x), ($"pick-{n}-y", y), ($"pick-{n}-z", z)];
}
