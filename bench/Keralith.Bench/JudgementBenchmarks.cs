using System.Buffers;
using System.Diagnostics;
using System.Text;
using BenchmarkDotNet.Attributes;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;

namespace Keralith.Bench;

/// <summary>How fast cases are judged, on one core.</summary>
public class JudgementBenchmarks
{
    /// <summary>Cases a benchmark judges in one go.</summary>
    public const int Cases = 500;

    /// <summary>Findings of a complete case: every question of a two-leg chain sling with hooks, by two books.</summary>
    public int FindingsOfACompleteCase => _complete.Answers.Count;

    private static readonly string[] Picks =
    [
        "-1150 mm|-500 mm",
        "1250 mm|-500 mm",
        "1250 mm|500 mm",
        "-1150 mm|500 mm",
    ];

    private readonly ReadOnlyMemory<byte> _beam = Encoding.UTF8.GetBytes(BeamOnACrane);
    private readonly Lift _lift = LiftReader.Read(FourLegs()).Value!;
    private readonly Case _complete = Complete();
    private readonly ArrayBufferWriter<byte> _output = new(1 << 16);
    private readonly byte[][] _utf8 = Enumerable
        .Range(0, Cases)
        .Select(i => Encoding.UTF8.GetBytes(FourAnswers(i)))
        .ToArray();

    /// <summary>The floor: parsing the same JSON and writing it back, nothing judged.</summary>
    [Benchmark(Baseline = true, OperationsPerInvoke = Cases)]
    public int JsonAlone()
    {
        var written = 0;
        foreach (var line in _utf8)
        {
            using var document = System.Text.Json.JsonDocument.Parse(line);
            written += System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(document.RootElement).Length;
        }

        return written;
    }

    /// <summary>Every question of a complete case judged; no JSON.</summary>
    [Benchmark]
    public VerdictKind CompleteCase() => Judge.Of(_complete).Kind;

    /// <summary>Lines of four answers in, lines of verdicts out, as <c>judge --lines</c>.</summary>
    [Benchmark(OperationsPerInvoke = Cases)]
    public int Lines()
    {
        var written = 0;
        foreach (var line in _utf8)
        {
            _output.ResetWrittenCount();
            CaseLines.Judge(line, _output);
            written += _output.WrittenCount;
        }

        return written;
    }

    /// <summary>
    /// An arrangement of four legs to known points, read from its co-ordinates and worked out: each leg with a sling
    /// and a shackle, by two books.
    /// </summary>
    [Benchmark]
    public LiftOutcome FourLegsToPoints()
    {
        var points = (LegsToPoints)_lift.Arrangement;
        var geometry = LegGeometry.Read(points.Geometry.Hook, points.Geometry.Centre, points.Geometry.Picks).Value;
        return LiftJudge.Of(_lift with { Arrangement = points with { Geometry = geometry } }).Outcome;
    }

    /// <summary>The same of a spreader on a crane by its chart, its drops over edges, read from its document each time.</summary>
    [Benchmark]
    public LiftOutcome BeamEdgesAndChart() => LiftJudge.Of(LiftReader.Read(_beam).Value!).Outcome;

    /// <summary>
    /// How many times the JSON alone a line takes. The two take turns, so that a machine that stalls stalls both; the
    /// median of the rounds.
    /// </summary>
    public double LinesOverJson()
    {
        const int WarmUp = 100,
            Rounds = 300;
        var (json, lines) = (new List<double>(), new List<double>());
        for (var round = 0; round < WarmUp + Rounds; round++)
        {
            json.Add(Took(JsonAlone));
            lines.Add(Took(Lines));
        }

        return Median(lines) / Median(json);

        static double Median(List<double> rounds) => rounds.Skip(WarmUp).Order().ElementAt(Rounds / 2);

        static double Took(Func<int> work)
        {
            var from = Stopwatch.GetTimestamp();
            work();
            return Stopwatch.GetElapsedTime(from).TotalMicroseconds;
        }
    }

    /// <summary>A case of four answers: two measures with their baselines, two faults, by two books.</summary>
    public static string FourAnswers(int i) =>
        $$"""
            {"format":"keralith.case/1","ruleBooks":["asme","osha"],"kind":"periodic","gear":{"family":"alloy-chain-sling","size":"3/8 in","grade":"80","legs":2,"endFitting":"hook"},"answers":[{"criterion":"id.marking","part":"tag","answer":"no"},{"criterion":"chain.link-thickness","part":"leg-1","value":"0.3{{50
                + (
                    i % 40
                )}} in","uncertainty":"0.001 in"},{"criterion":"hook.throat","part":"leg-1/hook","value":"1.4{{i
                % 10}} in","baseline":"1-3/8 in","baselineBasis":"new"},{"criterion":"chain.crack","part":"leg-2","answer":"no"}]}
            """;

    private static string FourLegs()
    {
        const string Rigging =
            """ "hitch":"vertical","sling":{"family":"alloy-chain-sling","size":"10 mm","grade":"80","ratedLoad":"3.15 t","designFactor":4},"components":[{"kind":"shackle","ratedLoad":"3.25 short ton","pull":"0 deg","pin":"screw"}] """;
        var legs = Picks.Select(p =>
            $"{{\"pick\":[\"{p.Replace("|", "\",\"", StringComparison.Ordinal)}\",\"0 mm\"],{Rigging}}}"
        );
        return """{"format":"keralith.lift/1","ruleBooks":["asme","osha"],"load":{"weight":"3600 kg","basis":"weighed"},"geometry":{"hook":["310 mm","140 mm","2650 mm"],"centreOfGravity":["345 mm","155 mm","-620 mm"],"legs":[LEGS]}}""".Replace(
            "LEGS",
            string.Join(",", legs),
            StringComparison.Ordinal
        );
    }

    private const string BeamOnACrane = """
        {"format":"keralith.lift/2","ruleBooks":["asme","osha"],"load":{"weight":"3600 kg","basis":"weighed"},
        "beam":{"kind":"lifting","ratedLoad":"6000 kg","ownWeight":"240 kg","span":"0 mm"},
        "drops":[{"at":"-1.2 m","hitch":"vertical","sling":{"family":"alloy-chain-sling","size":"13 mm","grade":"80","ratedLoad":"5.3 t","designFactor":4},"edge":{"radius":"40 mm"}},{"at":"1.4 m","hitch":"vertical","sling":{"family":"alloy-chain-sling","size":"13 mm","grade":"80","ratedLoad":"5.3 t","designFactor":4},"edge":{"radius":"20 mm"}}],
        "centreOfGravity":"0 mm",
        "crane":{"chart":[{"configuration":"full outriggers","boomLength":"11 m","radius":"4 m","capacity":"13000 kg"},{"configuration":"full outriggers","boomLength":"11 m","radius":"6 m","capacity":"9000 kg"},{"configuration":"full outriggers","boomLength":"11 m","radius":"9 m","capacity":"5600 kg"},{"configuration":"full outriggers","boomLength":"16 m","radius":"4 m","capacity":"11800 kg"},{"configuration":"full outriggers","boomLength":"16 m","radius":"6 m","capacity":"8800 kg"},{"configuration":"full outriggers","boomLength":"16 m","radius":"9 m","capacity":"5750 kg"}],"configuration":"full outriggers","boomLength":"11 m","radii":["5 m","6.5 m"],"deductions":[{"what":"hook block","weight":"300 kg"}]}}
        """;

    private static Case Complete()
    {
        var empty = CaseReader.Read(FourAnswers(0)).Value! with { Answers = [] };
        var answers = Judge
            .MissingAnswers(empty)
            .Select(m => new Answer(m.Criterion, m.Part, ResponseTo(m.Criterion)))
            .ToList();
        return empty with { Answers = answers };
    }

    private static Response ResponseTo(Criterion criterion)
    {
        if (criterion.IsAnswerChosen)
            return new Chosen(Found.No);
        var (value, baseline) = criterion.Id switch
        {
            "chain.link-thickness" => ("0.36 in", null),
            "hook.throat" => ("1.4 in", "1-3/8 in"),
            _ when criterion.Limit is LossLimit => ("0.72 in", "0.75 in"),
            _ => ("12.03 in", "12 in"),
        };
        return new Measured(
            Core.Quantities.Length.Parse(value),
            baseline is null ? null : Core.Quantities.Length.Parse(baseline),
            BaselineBasis.New,
            Core.Quantities.Length.Parse("0.001 in")
        );
    }
}
