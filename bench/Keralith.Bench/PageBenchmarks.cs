using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Data.Local;
using Keralith.Testing;
using Keralith.Web;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace Keralith.Bench;

/// <summary>
/// How fast the pages answer over HTTP on loopback, each asked in turn with a bare page over one query of the same
/// shape.
/// </summary>
internal sealed class PageBenchmarks
{
    private const double MedianTarget = 1.5;
    private const double LastTarget = 3;
    private const double KeyedGrowth = 1.3;
    private const double SearchGrowth = 2;

    private static readonly (string Name, string Path, string Floor, int Times, double Growth)[] Asked =
    [
        ("register, a fragment of a serial", "/register?q={serial}", "/floor/fragment?q={serial}", 100, SearchGrowth),
        ("register, a common word", "/register?q=pellow", "/floor/search?q=pellow", 20, SearchGrowth),
        (
            "register, two facets chosen",
            "/register?family=shackle&state=held",
            "/floor/search?q=shackle",
            20,
            SearchGrowth
        ),
        ("wall of a store of 5 000", "/?store={store}", "/floor/wall?store={store}", 30, KeyedGrowth),
        ("piece", "/piece/{mark}", "/floor/piece?q={mark}", 200, KeyedGrowth),
        ("due", "/due", "/floor/due", 30, SearchGrowth),
    ];

    private const string Password = "bench-lockgate";

    /// <summary>How long the built application may take to answer before the run is given up.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(1);

    private readonly Dictionary<string, double> _before = [];
    private bool _met = true;

    /// <summary>Measures at 20 000 and at 200 000 pieces.</summary>
    /// <returns>Whether all targets are met.</returns>
    public async Task<bool> RunAsync(IReadOnlyList<int> sizes)
    {
        var state = Environment.GetEnvironmentVariable("KERALITH_STATE")
            ?? Path.Combine(Path.GetTempPath(), "keralith");
        var cluster = LocalCluster.Start(Path.Combine(state, "bench", "server"));
        try
        {
            foreach (var size in sizes)
            {
                var database = string.Create(CultureInfo.InvariantCulture, $"bench_{size}");
                var clock = Stopwatch.StartNew();
                await cluster.EnsureDatabaseAsync(database, c => BenchData.FillAsync(c, size));
                await using (var older = new Database(cluster.ConnectionString(database)))
                {
                    older.Migrate();
                    await using var trusted = older.Command("delete from distrust");
                    await trusted.ExecuteNonQueryAsync();
                }

                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"\n{size:#,0} pieces, {size * BenchData.InspectionsEach:#,0} inspections (made or found in {clock.Elapsed.TotalSeconds:0} s)"
                    )
                );
                await OneSizeAsync(cluster.ConnectionString(database), size);
            }

            await ImportAsync(cluster);
        }
        finally
        {
            cluster.Stop();
        }

        return _met;
    }

    private async Task OneSizeAsync(string connectionString, int size)
    {
        var builder = WebApplication.CreateBuilder(
            new WebApplicationOptions
            {
                ContentRootPath = AppContext.BaseDirectory,
                ApplicationName = typeof(WebHost).Assembly.GetName().Name,
            }
        );
        builder.Logging.ClearProviders();
        WebHost.AddServices(builder.Services, connectionString, TimeProvider.System);

        // Pages are measured, not what runs beside them on a schedule: the register here was made without a ledger, and
        // verifying it would name every piece while the clock runs.
        foreach (var beside in builder.Services.Where(IsChores).ToList())
            builder.Services.Remove(beside);
        builder.Services.AddRazorPages().AddApplicationPart(typeof(PageBenchmarks).Assembly);
        await using var app = builder.Build();
        app.Urls.Add("http://127.0.0.1:0");
        WebHost.Configure(app);
        await app.StartAsync();
        using var http = new HttpClient(
            new HttpClientHandler
            {
                AllowAutoRedirect = false,
                CookieContainer = new(),
                AutomaticDecompression = DecompressionMethods.All,
            }
        )
        {
            BaseAddress = new(
                app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First()
            ),
        };
        await SignInAsync(app, http);
        foreach (var asked in Asked)
            await OnePageAsync(http, asked, size);
        await SigningAsync(app.Services);
        await app.StopAsync();
        await UsersAsync(connectionString, size);
    }

    private static bool IsChores(ServiceDescriptor service) =>
        service.ServiceType == typeof(IHostedService) && service.ImplementationFactory is not null;

    /// <summary>Page and floor by turns, so that a stall of the machine falls on both.</summary>
    private async Task OnePageAsync(
        HttpClient http,
        (string Name, string Path, string Floor, int Times, double Growth) asked,
        int size
    )
    {
        var (page, floor) = (new List<double>(), new List<double>());
        for (var i = -5; i < asked.Times; i++)
        {
            var number = 1 + (int)((uint)((i + 5) * 7919) % (uint)size);
            // Asked once beforehand: neither of the two pays for rows nobody has read yet.
            await TimeAsync(http, Filled(asked.Floor, number, size));
            var (ofPage, ofFloor) = (
                await TimeAsync(http, Filled(asked.Path, number, size)),
                await TimeAsync(http, Filled(asked.Floor, number, size))
            );
            if (i < 0)
                continue;
            page.Add(ofPage);
            floor.Add(ofFloor);
        }

        var (median, last, least, leastLast) = (At(page, 0.5), At(page, 0.99), At(floor, 0.5), At(floor, 0.99));
        var grown = _before.TryGetValue(asked.Name, out var before) ? median / before : (double?)null;
        _before[asked.Name] = median;
        var met =
            median <= MedianTarget * least
            && last <= LastTarget * leastLast
            && (grown is null || grown <= asked.Growth);
        _met &= met;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{asked.Name, -34} median {median, 7:0.0} ms ({median / least:0.0} x the floor of {least:0.0}), 99th {last, 7:0.0} ms ({last / leastLast:0.0} x){(grown is { } g ? $", grown {g:0.0} x" : string.Empty)}: {(met ? "met" : "NOT met")}"
            )
        );
    }

    /// <summary>Signing a clean check, against a bare insert of the same rows with a durable commit.</summary>
    private async Task SigningAsync(IServiceProvider services)
    {
        var (pieces, inspections, database) = (
            services.GetRequiredService<PieceStore>(),
            services.GetRequiredService<InspectionStore>(),
            services.GetRequiredService<Database>()
        );
        var signatures = services.GetRequiredService<SigningStore>();
        var (signing, bare) = (new List<double>(), new List<double>());
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        for (var i = 1; i <= 60; i++)
        {
            var piece = (await pieces.FindAsync(BenchData.Mark(BenchData.NumberOf("shackle", i)), default))!;
            var clock = Stopwatch.StartNew();
            var signed = await signatures.SignCleanCheckAsync(
                piece,
                today,
                new(Seed.People["inspector"], DateTimeOffset.UtcNow, Guid.NewGuid()),
                default
            );
            signing.Add(clock.Elapsed.TotalMilliseconds);
            if (!signed.Ok)
                throw new InvalidOperationException(signed.Fault);
            clock.Restart();
            await BareAsync(database, piece.Id, (await inspections.SignedAsync(piece.Id, default))[0]);
            bare.Add(clock.Elapsed.TotalMilliseconds);
        }

        var (median, least) = (At(signing, 0.5), At(bare, 0.5));
        _met &= median <= 2 * least;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{"signing a clean check", -34} median {median, 7:0.0} ms ({median / least:0.0} x a bare insert of its rows, {least:0.0}): {(median <= 2 * least ? "met" : "NOT met")}"
            )
        );
    }

    private static async Task BareAsync(Database database, Guid piece, InspectionRow row)
    {
        await using var connection = await database.OpenAsync(default);
        await using var transaction = await connection.BeginTransactionAsync();
        foreach (
            var sql in new[]
            {
                "insert into submission (id, at) values (gen_random_uuid(), now())",
                "insert into inspection (id, piece_id, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document) select gen_random_uuid(), $1, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document from inspection where id = $2",
                "update piece set version = version + 1 where id = $1",
                "insert into ledger (number, at, actor, kind, subject, data, previous, hash) select max(number) + 1, now(), 'bare', 'bare', 'bare', $3, sha256('a'), sha256(gen_random_uuid()::text::bytea) from ledger",
            }
        )
        {
            await using var command = connection.CreateCommand();
            command.Transaction = transaction;
            command.CommandText = sql;
            foreach (
                var value in new object[] { piece, row.Id, row.CaseDocument + row.VerdictDocument }.Take(
                    sql.Contains("$3", StringComparison.Ordinal) ? 3
                    : sql.Contains("$2", StringComparison.Ordinal) ? 2
                    : sql.Contains("$1", StringComparison.Ordinal) ? 1
                    : 0
                )
            )
                command.Parameters.Add(new() { Value = value });
            await command.ExecuteNonQueryAsync();
        }

        await transaction.CommitAsync();
    }

    /// <summary>A file of 20 000 rows read, its fate told and landed.</summary>
    private async Task ImportAsync(LocalCluster cluster)
    {
        const int Rows = 20_000;
        var name = $"import_{Guid.NewGuid():N}";
        await cluster.EnsureDatabaseAsync(name, c => BenchData.FillAsync(c, 0));
        await using var database = new Database(cluster.ConnectionString(name));
        var sites = new SiteStore(database);
        var import = new RegisterImport(database, sites, new(database, sites));
        var stores = await RegisterExport.StoresAsync(sites, default);
        var cells = RegisterColumns
            .Write(PieceEntryReader.Read(Seed.Sling("X-1")).Entry!, stores)
            .Where(c => RegisterColumns.Fixed.Contains(c.Key))
            .ToDictionary();
        var run = Guid.NewGuid().ToString("N")[..6].ToUpperInvariant();
        var csv = new StringBuilder().AppendJoin(',', cells.Keys).Append('\n');
        for (var i = 0; i < Rows; i++)
        {
            cells["mark"] = $"I-{run}-{i}";
            cells["serial"] = $"{run}{i}";
            csv.AppendJoin(',', cells.Values.Select(v => $"\"{v.Replace("\"", "\"\"", StringComparison.Ordinal)}\""))
                .Append('\n');
        }

        var bytes = Encoding.UTF8.GetBytes(csv.ToString());
        var clock = Stopwatch.StartNew();
        var table = Table.Read(bytes, CancellationToken.None).Value!;
        var plan = (
            await import.PlanAsync(table, RegisterImport.Mapping(table), Core.People.Role.Qualified, default)
        ).Value!;
        var told = clock.Elapsed.TotalSeconds;
        var landed = await import.LandAsync(
            plan,
            false,
            new(Seed.People["qualified"], DateTimeOffset.UtcNow, Guid.NewGuid()),
            null,
            default
        );
        if (landed.Value != Rows)
            throw new InvalidOperationException(
                landed.Fault ?? plan.Rows.First(r => r.Fate == RowFate.Refused).Faults.First().ToString()
            );
        var took = clock.Elapsed.TotalSeconds;
        _met &= took < 20;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{"import of 20 000 rows", -34} {took:0.0} s, of it {told:0.0} s until each row's fate is told (target 20 s): {(took < 20 ? "met" : "NOT met")}"
            )
        );
        await cluster.DropDatabaseAsync(name);
    }

    /// <summary>
    /// What the built application holds, in a process of its own, after fifty people have asked at once for pieces,
    /// searches, the due list and a full store's wall; and how soon it shows its first page.
    /// </summary>
    private async Task UsersAsync(string connectionString, int size)
    {
        if (Environment.GetEnvironmentVariable("KERALITH_CLI") is not { } program)
        {
            Console.WriteLine("memory, fifty at once: not measured; run ./keralith bench");
            return;
        }

        var address = $"http://127.0.0.1:{LoopbackPorts.Free()}";
        var clock = Stopwatch.StartNew();
        using var served = Process.Start(
            new ProcessStartInfo("dotnet", [program, "serve"])
            {
                Environment = { ["KERALITH_DATABASE"] = connectionString, ["KERALITH_URLS"] = address },
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        served.BeginOutputReadLine();
        served.BeginErrorReadLine();
        try
        {
            using var http = new HttpClient(
                new HttpClientHandler
                {
                    AllowAutoRedirect = false,
                    CookieContainer = new(),
                    AutomaticDecompression = DecompressionMethods.All,
                }
            )
            {
                BaseAddress = new(address),
            };
            while (!await AnswersAsync(http))
            {
                if (served.HasExited || clock.Elapsed > Patience)
                    throw new InvalidOperationException($"The built application does not answer at {address}.");
                await Task.Delay(20);
            }

            var started = clock.Elapsed.TotalSeconds;
            _met &= started < 3;
            await EnterAsync(http);
            await Parallel.ForEachAsync(
                Enumerable.Range(1, 500),
                new ParallelOptions { MaxDegreeOfParallelism = 50 },
                async (i, _) =>
                    await TimeAsync(
                        http,
                        Filled(
                            (i % 25) switch
                            {
                                0 => "/due",
                                1 => "/?store={store}",
                                2 or 3 => "/register?q={serial}",
                                _ => "/piece/{mark}",
                            },
                            1 + (i * 7919 % size),
                            size
                        )
                    )
            );
            served.Refresh();
            var megabytes = served.WorkingSet64 / 1048576.0;
            _met &= megabytes < 250;
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{"first page after the start", -34} {started:0.0} s (target 3): {(started < 3 ? "met" : "NOT met")}"
                )
            );
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{"memory, fifty at once", -34} {megabytes:0} MB (target 250): {(megabytes < 250 ? "met" : "NOT met")}"
                )
            );
        }
        finally
        {
            served.Kill();
            await served.WaitForExitAsync();
        }
    }

    private static async Task<bool> AnswersAsync(HttpClient http)
    {
        try
        {
            using var page = await http.GetAsync("/sign-in");
            return page.IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }

    private static string Filled(string path, int number, int size) =>
        path.Replace("{mark}", BenchData.Mark(number), StringComparison.Ordinal)
            .Replace("{serial}", BenchData.Serial(number), StringComparison.Ordinal)
            .Replace(
                "{store}",
                (4 + (number % (size / BenchData.AStore))).ToString(CultureInfo.InvariantCulture),
                StringComparison.Ordinal
            );

    private static async Task<double> TimeAsync(HttpClient http, string path)
    {
        var clock = Stopwatch.StartNew();
        using var response = await http.GetAsync(path);
        await response.Content.ReadAsByteArrayAsync();
        if (response.StatusCode != HttpStatusCode.OK)
            throw new InvalidOperationException($"{path}: {response.StatusCode}");
        return clock.Elapsed.TotalMilliseconds;
    }

    private static async Task SignInAsync(WebApplication app, HttpClient http)
    {
        await using (
            var passwords = app.Services.GetRequiredService<Database>().Command("update person set password_hash = $1")
        )
        {
            passwords.Parameters.Add(
                new() { Value = new PasswordHasher<Actor>().HashPassword(Seed.People["inspector"], Password) }
            );
            await passwords.ExecuteNonQueryAsync();
        }

        await EnterAsync(http);
    }

    private static async Task EnterAsync(HttpClient http)
    {
        var page = await http.GetStringAsync("/sign-in");
        var token = page.Split("__RequestVerificationToken", 2)[1].Split("value=\"", 2)[1].Split('"')[0];
        var answer = await http.PostAsync(
            "/sign-in",
            new FormUrlEncodedContent(
                new Dictionary<string, string>
                {
                    ["username"] = "inspector",
                    ["password"] = Password,
                    ["__RequestVerificationToken"] = token,
                }
            )
        );
        if (answer.StatusCode != HttpStatusCode.Redirect)
            throw new InvalidOperationException("The bench could not sign in.");
    }

    private static double At(List<double> times, double share)
    {
        var sorted = times.Order().ToList();
        return sorted[(int)Math.Min(sorted.Count - 1, Math.Floor(share * sorted.Count))];
    }
}
