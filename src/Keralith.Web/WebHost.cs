using System.Globalization;
using System.IO.Compression;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Web.Api;
using Keralith.Web.Files;
using Keralith.Web.Mailing;
using Keralith.Web.Printing;
using Keralith.Web.Running;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.ModelBinding;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Microsoft.Extensions.Options;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Compact;

namespace Keralith.Web;

/// <summary>Builds the web application. Stateless: keys, sessions and records are in the database.</summary>
public static class WebHost
{
    /// <param name="args">Command line of the host.</param>
    /// <param name="connectionString">The database.</param>
    /// <param name="urls">Where it listens; null: as configured.</param>
    /// <param name="quiet">Whether only warnings are logged.</param>
    /// <param name="time">The clock; null: the machine's.</param>
    /// <param name="served">Under which address it is served; null: as the environment says.</param>
    /// <param name="dating">By which clock records are dated; null: the database's, unless a clock was given.</param>
    public static WebApplication Build(
        string[] args,
        string connectionString,
        string? urls,
        bool quiet,
        TimeProvider? time = null,
        Served? served = null,
        Dating? dating = null
    )
    {
        if (Security.WorksKey.FaultOfFolder is { } fault)
            throw new InvalidOperationException(fault);
        var builder = WebApplication.CreateBuilder(
            new WebApplicationOptions
            {
                // Nothing is configured by files that could change while it runs.
                Args = [.. args, "--hostBuilder:reloadConfigOnChange=false"],
                ContentRootPath = AppContext.BaseDirectory,
                WebRootPath = Path.Combine(AppContext.BaseDirectory, "wwwroot"),
                ApplicationName = typeof(WebHost).Assembly.GetName().Name,
            }
        );
        builder.Environment.WebRootFileProvider = new Files.Unwatched(builder.Environment.WebRootFileProvider);
        builder.Environment.ContentRootFileProvider = new Files.Unwatched(builder.Environment.ContentRootFileProvider);
        if (urls is not null)
            builder.WebHost.UseUrls(urls);
        builder.WebHost.ConfigureKestrel(k =>
        {
            k.AddServerHeader = false;
            k.Limits.MaxRequestBodySize = SizeGate.Usual;
        });
        builder.Host.UseSerilog(
            (_, log) =>
                log
                    .MinimumLevel.Is(quiet ? LogEventLevel.Error : LogEventLevel.Information)
                    .MinimumLevel.Override("Microsoft.AspNetCore", quiet ? LogEventLevel.Fatal : LogEventLevel.Warning)
                    .MinimumLevel.Override("Microsoft.AspNetCore.Diagnostics", LogEventLevel.Error)
                    .WriteTo.Console(new RenderedCompactJsonFormatter())
        );
        // Browsers keep connections open; requests under way get this long when the application is stopped.
        builder.Services.Configure<HostOptions>(o => o.ShutdownTimeout = TimeSpan.FromSeconds(4));
        AddServices(
            builder.Services,
            connectionString,
            time ?? TimeProvider.System,
            served ?? Served.Read(Environment.GetEnvironmentVariable),
            dating
        );
        var app = builder.Build();
        Configure(app);
        return app;
    }

    /// <summary>The services of the application, for the host and for tests that host it otherwise.</summary>
    /// <param name="served">Under which address it is served; null: on loopback.</param>
    public static void AddServices(
        IServiceCollection services,
        string connectionString,
        TimeProvider time,
        Served? served = null,
        Dating? dating = null
    )
    {
        served ??= Served.Read(_ => null);
        services.AddSingleton(served);
        services.Configure<HostFilteringOptions>(o =>
        {
            o.AllowedHosts = [.. served.Hosts];
            o.AllowEmptyHosts = false;
        });
        services.AddSingleton(_ => new Database(connectionString));
        services.AddSingleton<SiteStore>();
        services.AddSingleton<KeptSites>();
        services.AddSingleton<PeopleStore>();
        services.AddSingleton<AccountStore>();
        services.AddSingleton<DirectoryStore>();
        services.AddSingleton<FactorStore>();
        services.AddSingleton<SetUpStore>();
        services.AddSingleton<StoreKeeping>();
        services.AddSingleton<PieceStore>();
        services.AddSingleton<ReplacementStore>();
        services.AddSingleton<OwnWaysStore>();
        services.AddSingleton<WallStore>();
        services.AddSingleton<RegisterSearch>();
        services.AddSingleton<RegisterExport>();
        services.AddSingleton<RegisterImport>();
        services.AddSingleton<ImportFiles>();
        services.AddSingleton<Pages.Register.ImportRunner>();
        services.AddSingleton<YardStore>();
        services.AddSingleton<FileStore>();
        services.AddSingleton<TakeOverStore>();
        services.AddSingleton<LabelPrinter>();
        services.AddSingleton<MailStore>();
        services.AddSingleton<ChoreStore>();
        services.AddSingleton<IMailPost>(p =>
            served.Mail is { } server ? new SmtpPost(server) : new Outbox(p.GetRequiredService<TimeProvider>())
        );
        services.AddSingleton<Mails>();
        services.AddSingleton<Reminders>();
        services.AddSingleton<NoticeMails>();
        services.AddSingleton<Invitations>();
        services.AddSingleton<ViewStore>();
        services.AddSingleton<InspectionStore>();
        services.AddSingleton<SigningStore>();
        services.AddSingleton<CorrectionStore>();
        services.AddSingleton<InstrumentStore>();
        services.AddSingleton<DueStore>();
        services.AddSingleton<SeasonStore>();
        services.AddSingleton<EventStore>();
        services.AddSingleton<CustodyStore>();
        services.AddSingleton<IssueStore>();
        services.AddSingleton<LiftStore>();
        services.AddSingleton<NoticeStore>();
        services.AddSingleton<Lifts.LoadCell>();
        services.AddSingleton<LedgerStore>();
        services.AddSingleton<KeyStore>();
        services.AddSingleton(p => new VerifyStore(p.GetRequiredService<Database>(), p.GetService<MasterKey>()?.Key));
        services.AddSingleton<RunningStore>();
        services.AddSingleton<Backups>();
        services.AddSingleton<Chores>();
        services.AddHostedService(p => p.GetRequiredService<Chores>());
        services.AddSingleton<SettingsStore>();
        services.AddSingleton<QuestionStore>();
        services.AddSingleton<ProofAskStore>();
        services.AddSingleton<CodeStore>();
        services.AddSingleton<RoundStore>();
        services.AddSingleton<AwayStore>();
        services.AddSingleton<RecallStore>();
        services.AddSingleton<LookBackStore>();
        services.AddSingleton<PutRightStore>();
        services.AddSingleton<TeachingStore>();
        services.AddSingleton<TaughtRecords>();
        services.AddSingleton<PriceStore>();
        services.AddSingleton<TreeHeadStore>();
        services.AddSingleton<WorksKey>();
        services.AddSingleton<AuditPack>();
        services.AddSingleton<TokenStore>();
        services.AddSingleton<JudgeAgain>();
        services.AddSingleton<Rejudging>();
        services.AddSingleton<Packing>();
        services.AddSingleton(time);
        services.AddSingleton(dating ?? new Dating(time == TimeProvider.System));
        services.AddSingleton<SiteClock>();
        services.AddSingleton<IPasswordHasher<Actor>, PasswordHasher<Actor>>();
        services.AddSingleton<SignInStore>();
        services.AddSingleton<Passwords>();
        services.AddSingleton<SecondFactor>();
        services.AddHttpContextAccessor();
        services.AddSingleton<PublicAddress>();
        services.AddScoped<Here>();

        services.AddDataProtection().SetApplicationName("keralith");
        if (served.KeyFile is { } keyFile)
            services.AddSingleton(_ => MasterKey.Of(keyFile));
        services.AddSingleton<IConfigureOptions<KeyManagementOptions>>(p => new ConfigureOptions<KeyManagementOptions>(
            o =>
            {
                o.XmlRepository = new DatabaseKeys(p.GetRequiredService<KeyStore>());
                if (p.GetService<MasterKey>() is { } key)
                    o.XmlEncryptor = new KeySealer(key);
            }
        ));
        var authentication = services
            .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
            .AddCookie(o =>
            {
                Seal(o.Cookie, "keralith", served);
                o.Cookie.SameSite = SameSiteMode.Lax;
                o.LoginPath = "/sign-in";
                o.AccessDeniedPath = "/no-permission";
                o.ExpireTimeSpan = SignInStore.Longest;
                o.SlidingExpiration = false;
                o.Events.OnValidatePrincipal = SignedIn.ValidateAsync;
                o.ReturnUrlParameter = "next";
                o.Events.OnRedirectToLogin = c => SignInRedirect.ToSignIn(c);
                o.Events.OnRedirectToAccessDenied = c => SignInRedirect.ToNoPermission(c);
            })
            .AddScheme<Microsoft.AspNetCore.Authentication.AuthenticationSchemeOptions, BearerTokens>(
                BearerTokens.Name,
                null
            );
        if (served.Directory is { } directory)
            DirectorySignIn.Add(authentication, directory);
        services.AddAuthorization(o =>
        {
            o.FallbackPolicy = new Microsoft.AspNetCore.Authorization.AuthorizationPolicyBuilder()
                .RequireAuthenticatedUser()
                .Build();
            foreach (var right in Enum.GetValues<Right>())
            {
                o.AddPolicy(right.ToString(), p =>
                    p.RequireAuthenticatedUser().RequireAssertion(c => c.User.Roles().May(right))
                );
            }
        });
        services.AddAntiforgery(o =>
        {
            Seal(o.Cookie, "keralith-form", served);
            o.HeaderName = "X-Form-Token";
        });
        services
            .AddRazorPages()
            .AddMvcOptions(o =>
            {
                o.Filters.Add<DatabaseAwayFilter>();

                // What the address names is what is acted on, whatever a form says under the same name.
                o.ValueProviderFactories.Insert(0, new RouteValueProviderFactory());
                o.Filters.Add(new HandlerGate());
                o.Filters.Add(new RightGate());
                o.Filters.Add(new TextGate());
            });
        services.AddResponseCompression(o =>
        {
            o.EnableForHttps = false;
            o.MimeTypes = ResponseCompressionDefaults.MimeTypes.Concat(["image/svg+xml"]);
            o.Providers.Add<BrotliCompressionProvider>();
            o.Providers.Add<GzipCompressionProvider>();
        });
        services.Configure<BrotliCompressionProviderOptions>(o => o.Level = CompressionLevel.Fastest);
        JudgeApi.AddServices(services);
        Metrics.AddServices(services);
        services.AddHsts(o => o.MaxAge = TimeSpan.FromDays(365));
        services.Configure<ForwardedHeadersOptions>(o =>
        {
            o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
            o.KnownProxies.Clear();
            o.KnownIPNetworks.Clear();
            foreach (var network in served.Proxies)
                o.KnownIPNetworks.Add(network);
        });
        services.AddHealthChecks().AddCheck<DatabaseHealth>("database", tags: ["ready"]);
    }

    /// <summary>The request pipeline.</summary>
    public static void Configure(WebApplication app)
    {
        CultureInfo.DefaultThreadCurrentCulture = CultureInfo.InvariantCulture;
        var served = app.Services.GetRequiredService<Served>();

        // Where a request comes from is what the configured proxies say of it, and nobody else.
        if (served.Proxies.Count > 0)
            app.UseForwardedHeaders();
        app.UseHostFiltering();
        if (served.IsSecure)
            app.UseHsts();
        app.UseMiddleware<SecurityHeaders>();
        app.UseExceptionHandler("/error");
        app.UseStatusCodePagesWithReExecute("/error", "?status={0}");
        app.UseResponseCompression();
        app.UseStaticFiles(
            new StaticFileOptions
            {
                OnPrepareResponse = c =>
                    c.Context.Response.Headers.CacheControl =
                        c.Context.Request.Query.ContainsKey("v")
                        || c.File.Name.EndsWith(".woff2", StringComparison.Ordinal)
                            ? "public, max-age=31536000, immutable"
                            : "public, max-age=600",
            }
        );
        app.UseMiddleware<AddressGate>();
        app.UseMiddleware<SetUpGate>();
        Metrics.Use(app, served);
        app.UseRouting();
        app.UseMiddleware<SizeGate>();
        app.UseAuthentication();
        app.UseMiddleware<FactorGate>();
        app.UseAuthorization();
        app.UseMiddleware<SiteDay>();
        app.UseRateLimiter();
        JudgeApi.Map(app);
        FileEndpoints.Map(app);
        DirectorySignIn.Map(app, served);
        app.MapRazorPages();
        app.MapHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false }).AllowAnonymous();
        app.MapHealthChecks("/health/ready", new HealthCheckOptions { Predicate = c => c.Tags.Contains("ready") })
            .AllowAnonymous();
    }

    /// <summary>A cookie no script reads; served over HTTPS, for that host over HTTPS alone.</summary>
    private static void Seal(CookieBuilder cookie, string name, Served served)
    {
        cookie.Name = served.IsSecure ? $"__Host-{name}" : name;
        cookie.HttpOnly = true;
        cookie.Path = "/";
        cookie.SecurePolicy = served.IsSecure ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
    }

    /// <summary>Sees to it that the site's day is known before anything asks for it.</summary>
    private sealed class SiteDay(RequestDelegate next, SiteClock clock)
    {
        public async Task InvokeAsync(HttpContext context)
        {
            try
            {
                await clock.BeginAsync(context.RequestAborted);
            }
            catch (Exception e) when (DatabaseAwayFilter.IsOfDatabase(e))
            {
                // The page says that the database is away; the day is read with the next request.
            }

            await next(context);
        }
    }

    private sealed class DatabaseHealth(Database database, TimeProvider time) : IHealthCheck
    {
        public async Task<HealthCheckResult> CheckHealthAsync(
            HealthCheckContext context,
            CancellationToken cancellationToken = default
        )
        {
            try
            {
                var fault = await database.FaultAsync(time.GetUtcNow(), cancellationToken);
                return fault is null ? HealthCheckResult.Healthy() : HealthCheckResult.Unhealthy(fault);
            }
            catch (Exception e) when (DatabaseAwayFilter.IsOfDatabase(e))
            {
                return HealthCheckResult.Unhealthy("The database does not answer.", e);
            }
        }
    }
}
