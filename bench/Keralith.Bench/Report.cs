using System.Globalization;
using BenchmarkDotNet.Reports;

namespace Keralith.Bench;

/// <summary>Says what the benchmarks came to in the words of docs/performance.md, and whether the targets are met.</summary>
internal static class Report
{
    private const double FindingsASecond = 300_000;
    private const double CasesASecond = 20_000;
    private const double LinesOverJson = 5;
    private const double MicrosecondsALift = 50;
    private const double MicrosecondsABeam = 100;

    /// <summary>Prints the figures.</summary>
    /// <returns>0 when all targets are met, else 1.</returns>
    public static int Print(Summary summary)
    {
        var rows = summary
            .Reports.Where(r => r.ResultStatistics is not null)
            .ToDictionary(r => r.BenchmarkCase.Descriptor.WorkloadMethod.Name);
        if (rows.Count < 4)
        {
            Console.Error.WriteLine("A benchmark did not run; --log shows why.");
            return 1;
        }

        var findings = new JudgementBenchmarks().FindingsOfACompleteCase;
        var floor = Nanoseconds(rows["JsonAlone"]);
        var complete = Nanoseconds(rows["CompleteCase"]) / findings;
        var line = Nanoseconds(rows["Lines"]);
        Console.WriteLine(
            $"{Environment.ProcessorCount} cores, {summary.HostEnvironmentInfo.Cpu.Value?.ProcessorName?.Trim()}, .NET {Environment.Version}, one core used"
        );
        Console.WriteLine();
        Say(
            $"findings judged a second",
            1e9 / complete,
            FindingsASecond,
            $"{complete:0} ns and {Bytes(rows["CompleteCase"]) / findings:0} bytes a finding ({findings} findings a case, two books)"
        );
        Say(
            $"four-answer cases a second, JSON in and out",
            1e9 / line,
            CasesASecond,
            $"{line / 1000:0.0} us and {Bytes(rows["Lines"]):0} bytes a case; parsing and writing the same JSON alone: {floor / 1000:0.0} us"
        );
        var over = new JudgementBenchmarks().LinesOverJson();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{over, 12:0.0}  x the JSON alone, by turns (target at most {LinesOverJson}: {(over <= LinesOverJson ? "met" : "NOT met")})"
            )
        );
        var lift = Took("FourLegsToPoints", "an arrangement of four legs to known points", MicrosecondsALift);
        var beam = Took("BeamEdgesAndChart", "a beam on a crane by its chart over edges, read too", MicrosecondsABeam);
        return lift && beam && over <= LinesOverJson && 1e9 / complete >= FindingsASecond && 1e9 / line >= CasesASecond
            ? 0
            : 1;

        bool Took(string row, string what, double target)
        {
            var microseconds = Nanoseconds(rows[row]) / 1000;
            var met = microseconds < target;
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{microseconds, 12:0.0}  microseconds {what} (target under {target}: {(met ? "met" : "NOT met")})\n              {Bytes(rows[row]):0} bytes"
                )
            );
            return met;
        }
    }

    private static void Say(string what, double figure, double target, string more) =>
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{figure, 12:#,0}  {what} (target {target:#,0}: {(figure >= target ? "met" : "NOT met")})\n              {more}"
            )
        );

    private static double Nanoseconds(BenchmarkReport report) => report.ResultStatistics!.Mean;

    private static double Bytes(BenchmarkReport report) =>
        report.GcStats.GetBytesAllocatedPerOperation(report.BenchmarkCase) ?? 0;
}
