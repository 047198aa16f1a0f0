using BenchmarkDotNet.Columns;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Diagnosers;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Loggers;
using BenchmarkDotNet.Running;
using BenchmarkDotNet.Toolchains.InProcess.Emit;
using Keralith.Bench;

// One process, one core, no build on the side: the same runs on any machine the product runs on.
var config = ManualConfig
    .CreateEmpty()
    .AddJob(Job.ShortRun.WithToolchain(InProcessEmitToolchain.Instance).WithWarmupCount(3).WithIterationCount(5))
    .AddDiagnoser(MemoryDiagnoser.Default)
    .AddColumnProvider(DefaultColumnProviders.Instance)
    .AddLogger(args.Contains("--log") ? ConsoleLogger.Default : NullLogger.Instance)
    .WithArtifactsPath(
        Path.Combine(Environment.GetEnvironmentVariable("KERALITH_STATE") ?? Path.GetTempPath(), "bench")
    )
    .WithOptions(ConfigOptions.DisableOptimizationsValidator);
int[] sizes = args.Contains("small") ? [20_000] : [20_000, 200_000];
if (args.Contains("record"))
    return await RecordBenchmarks.RunAsync(sizes) ? 0 : 1;
var judged = args.Contains("pages") ? 0 : Report.Print(BenchmarkRunner.Run<JudgementBenchmarks>(config));
var met = args.Contains("judgement") || await new PageBenchmarks().RunAsync(sizes);
return judged == 0 && met ? 0 : 1;
