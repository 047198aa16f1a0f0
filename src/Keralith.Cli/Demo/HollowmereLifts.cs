using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Data;

namespace Keralith.Cli.Demo;

/// <summary>Eight lifts at the locks, put together from what hangs in the stores by the same search people use.</summary>
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
                .. Crane("outriggers full, 360 deg", "60 ft", "18", "28", "24"),
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
                ("basis", "known"),
                ("weight", "620 lb"),
                ("weightBy", "overhaul sheet 7"),
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
            ("hand-chain-hoist", 2, [])
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
                ("stand", "beam"),
                ("beamKind", "spreader"),
                ("span", "2 m"),
                ("topAngle", "60"),
                ("along", "1 in"),
                ("drop-1-above", "0.2"),
                ("drop-2-above", "0.2"),
                .. On(1, "HM-0004", "leg-1"),
                .. On(2, "HM-0016", "leg-2"),
                .. On(3, "HM-0097", "beam"),
                .. On(4, "HM-0018", "top"),
            ]
        );
        await LiftAsync(
            lifts,
            "qualified",
            1,
            [
                .. InFeet,
                ("name", "Coping set past the quay edge"),
                ("job", "Coping at lock 11"),
                ("basis", "estimated"),
                .. Box(1, "4", "1.5", "1", "granite"),
                ("stand", "alike"),
                ("legs", "2"),
                ("angle", "70"),
                ("hitch", "choker"),
                ("chokeAngle", "125"),
                ("contact", "square"),
                ("edge", "bears"),
                ("edgeRadius", "2 mm"),
                ("edgeProtection", "cut-protector"),
                ("edgeProtectedRadius", "1 in"),
                ("edgeBears", "14 in"),
                ("slingThickness", "0.3 in"),
                .. Crane("over the rear, stabilisers down", "30 ft", "10", "16", "14"),
                ("room", "asked"),
                ("room-hook", "24"),
                ("room-load", "1"),
                ("room-above", "1.5"),
                ("room-legs", "6"),
                ("way-1-along", "5"),
                ("way-1-clear", "3.5"),
                ("way-1-note", "quay rail"),
                ("way-2-along", "14"),
                ("way-2-clear", "0"),
                ("way-2-note", "bed"),
            ],
            ("roundsling", 2, [])
        );
        await LiftAsync(
            lifts,
            "inspector",
            1,
            [
                .. InFeet,
                ("name", "Pump drawn sideways onto its platform"),
                ("job", "Pump house, Basin Yard"),
                ("basis", "marked"),
                ("weight", "650 lb"),
                ("stand", "drift"),
                ("a-x", "0"),
                ("a-z", "12"),
                ("b-x", "9"),
                ("b-z", "5"),
                ("from", "0.2"),
                ("to", "3"),
                ("carried", "3"),
            ],
            ("hand-chain-hoist", 1, []),
            ("rope-grip-hoist", 1, [])
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
                chosen: chosen
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
                if (PlanGear.Add(fields, fit.Gear.Mark, fit.Gear, chosen) is { } refusal)
                    throw new InvalidOperationException($"{fields["name"]}: {refusal.Words}");
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

    private static (string, string)[] On(int row, string mark, string place) =>
        [(LiftPlanReader.PieceField(row, "mark"), mark), (LiftPlanReader.PieceField(row, "place"), place)];

    /// <summary>Hung from the yard's small crane, by a chart of its own.</summary>
    private static (string, string)[] Crane(string configuration, string boom, string pick, string way, string land)
    {
        var rows = new List<string>();
        foreach (
            var (stands, share) in new[]
            {
                ("outriggers full, 360 deg", 1.0),
                ("over the rear, stabilisers down", 0.55),
            }
        )
        {
            foreach (var (length, first) in new[] { (30, 46_000), (45, 41_000), (60, 34_000) })
            {
                for (var radius = 10; radius <= length * 2 / 3; radius += 5)
                    rows.Add(
                        $"{stands}\t{length} ft\t{radius} ft\t{Math.Floor(first * share * 10 / radius / 100) * 100:0} lb"
                    );
            }
        }

        return
        [
            ("machine", "crane"),
            ("crane-name", "Small yard crane, chart of 2023"),
            ("crane-chart", string.Join('\n', rows)),
            ("crane-configuration", configuration),
            ("crane-boom", boom),
            ("crane-pick", pick),
            ("crane-way", way),
            ("crane-land", land),
            ("deduct-1-what", "block and rope"),
            ("deduct-1-weight", "420 lb"),
        ];
    }

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
