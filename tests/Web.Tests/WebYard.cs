using System.Net;
using System.Text.RegularExpressions;
using AngleSharp;
using AngleSharp.Html.Dom;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>The application on a fresh database, and people who use its pages.</summary>
internal sealed class WebYard : IAsyncDisposable
{
    public const string Password = "test-lockgate";

    private static readonly string Hash = new PasswordHasher<Actor>().HashPassword(Seed.People["crew"], Password);

    private WebYard(WebApplication app, string connectionString)
    {
        App = app;
        ConnectionString = connectionString;
        Address = new(
            app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First()
        );
    }

    public WebApplication App { get; }

    public string ConnectionString { get; }

    public Uri Address { get; }

    public Database Database => App.Services.GetRequiredService<Database>();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <param name="time">The clock; null: the machine's.</param>
    public static async Task<WebYard> OpenAsync(TimeProvider? time = null)
    {
        var connectionString = await TestDatabases.CopyAsync(await SignedUp.Value);
        var app = WebHost.Build([], connectionString, "http://127.0.0.1:0", quiet: true, time);
        await app.StartAsync(Cancel);
        return new(app, connectionString);
    }

    /// <summary>Records in which everybody can sign in, told by their ledger, with nobody connected: each yard is a copy.</summary>
    private static readonly Lazy<Task<string>> SignedUp = new(SignUpAsync);

    private static async Task<string> SignUpAsync()
    {
        var connectionString = await TestDatabases.CreateAsync(isTold: false);
        await using (var database = new Database(connectionString))
        {
            await using (
                var passwords = database.Command("update person set password_hash = $1 where password_hash <> ''")
            )
            {
                passwords.Parameters.Add(new() { Value = Hash });
                await passwords.ExecuteNonQueryAsync(Cancel);
            }

            await new RecordSeal(database).RunAsync(Seed.Begun, Cancel);
        }

        return connectionString;
    }

    /// <summary>Somebody with a browser, not signed in.</summary>
    public Visitor Visitor() => new(Address);

    /// <summary>Somebody signed in.</summary>
    public async Task<Visitor> SignedInAsync(string who)
    {
        var visitor = Visitor();
        var response = await visitor.PostAsync("/sign-in", new() { ["username"] = who, ["password"] = Password });
        Assert.Equal(HttpStatusCode.Redirect, response.StatusCode);
        return visitor;
    }

    public async Task<Piece> RegisterAsync(
        Dictionary<string, string> fields,
        DateTimeOffset? at = null,
        string by = "stores"
    )
    {
        var pieces = App.Services.GetRequiredService<PieceStore>();
        var stamp = new Stamp(Seed.People[by], at ?? DateTimeOffset.UtcNow, Guid.NewGuid());
        Assert.True(
            (await pieces.RegisterAsync(PieceEntryReader.Read(fields).Entry!, Guid.NewGuid(), stamp, Cancel)).Ok
        );
        return (await pieces.FindAsync(fields["mark"], Cancel))!;
    }

    /// <summary>A shackle registered and accepted at a time.</summary>
    public async Task<Piece> AcceptedAsync(
        Dictionary<string, string> fields,
        DateTimeOffset at,
        InspectionKind kind = InspectionKind.Initial,
        string bow = "7/8 in"
    )
    {
        var piece = await RegisterAsync(fields, at.AddHours(-1));
        await InspectAsync(piece, at, kind, bow);
        return piece;
    }

    /// <summary>A complete, clean inspection of a shackle, its bow measured.</summary>
    public async Task InspectAsync(Piece piece, DateTimeOffset at, InspectionKind kind, string bow)
    {
        var (draft, version, stamp) = await DraftAsync(piece, "inspector", at, kind, bow);
        var result = await App
            .Services.GetRequiredService<SigningStore>()
            .SignAsync(draft, new(version, DateOnly.FromDateTime(at.UtcDateTime)), stamp, Cancel);
        Assert.True(result.Ok, result.Fault);
    }

    /// <summary>The same, left unsigned.</summary>
    public async Task<(Guid Draft, int Version, Stamp Stamp)> DraftAsync(
        Piece piece,
        string who,
        DateTimeOffset at,
        InspectionKind kind = InspectionKind.Initial,
        string bow = "7/8 in"
    )
    {
        var inspections = App.Services.GetRequiredService<InspectionStore>();
        var stamp = new Stamp(Seed.People[who], at, Guid.NewGuid());
        var site = await App.Services.GetRequiredService<SiteStore>().GetAsync(Cancel);
        var draft = (
            await inspections.OpenAsync(
                (await App.Services.GetRequiredService<PieceStore>().GetAsync(piece.Id, Cancel))!,
                kind,
                stamp,
                Cancel
            )
        ).Value;
        var answers = Judge
            .MissingAnswers(new(site.Books, kind, piece.Gear, [], []))
            .Select(m => new DraftAnswer(
                m.Part,
                m.Criterion.Id,
                m.Criterion.IsAnswerChosen
                    ? new(Answer: "no")
                    : new(Value: m.Criterion.Id == "shackle.wear-pin" ? "1 in" : bow),
                null,
                "",
                stamp.At
            ))
            .ToList();
        return (draft, (await inspections.SaveAsync(draft, answers, stamp.Actor, stamp.At, Cancel)).Value, stamp);
    }

    public async ValueTask DisposeAsync()
    {
        await App.StopAsync(Cancel);
        await App.DisposeAsync();
    }
}

/// <summary>A browser's part: cookies, forms with their tokens, no following of redirects.</summary>
internal sealed partial class Visitor
{
    private readonly Uri _address;
    private readonly CookieContainer _cookies = new();
    private readonly HttpClient _http;

    public Visitor(Uri address)
    {
        _address = address;
        _http = new(new HttpClientHandler { AllowAutoRedirect = false, CookieContainer = _cookies })
        {
            BaseAddress = address,
        };
    }

    /// <summary>Another browser with the same cookies as now, at this node or another.</summary>
    public Visitor Copy(Uri? at = null)
    {
        var copy = new Visitor(at ?? _address);
        foreach (Cookie cookie in _cookies.GetAllCookies())
            copy._cookies.Add(copy._address, new Cookie(cookie.Name, cookie.Value, cookie.Path));
        return copy;
    }

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public Task<HttpResponseMessage> GetAsync(string path) => _http.GetAsync(path, Cancel);

    public Task<HttpResponseMessage> SendAsync(HttpRequestMessage request) => _http.SendAsync(request, Cancel);

    public async Task<IHtmlDocument> PageAsync(string path)
    {
        var response = await GetAsync(path);
        Assert.True(response.IsSuccessStatusCode, $"{path}: {response.StatusCode}");
        return await ReadAsync(response);
    }

    public static async Task<IHtmlDocument> ReadAsync(HttpResponseMessage response) =>
        (IHtmlDocument)
            await BrowsingContext
                .New(Configuration.Default)
                .OpenAsync(r => r.Content(response.Content.ReadAsStream(Cancel)), Cancel);

    /// <summary>A form token of a page this visitor may see.</summary>
    public async Task<string> TokenAsync(string page)
    {
        var html = await (await GetAsync(page)).Content.ReadAsStringAsync(Cancel);
        var token = Token().Match(html);
        return token.Success ? token.Groups[1].Value : string.Empty;
    }

    /// <summary>Posts fields with the token of the page.</summary>
    public async Task<HttpResponseMessage> PostAsync(
        string path,
        Dictionary<string, string> fields,
        string? page = null
    )
    {
        var token = await TokenAsync(page ?? path.Split('?')[0]);
        if (token.Length == 0)
            token = await TokenAsync("/account");
        return await _http.PostAsync(
            path,
            new FormUrlEncodedContent([.. fields, new("__RequestVerificationToken", token)]),
            Cancel
        );
    }

    /// <summary>Sends a file with the token of a page, as a form with an enclosure does.</summary>
    public async Task<HttpResponseMessage> SendFileAsync(
        string path,
        string field,
        string name,
        byte[] bytes,
        Dictionary<string, string>? fields = null,
        bool background = false
    )
    {
        var content = new MultipartFormDataContent
        {
            { new StringContent(await TokenAsync(path.Split('?')[0])), "__RequestVerificationToken" },
            { new StringContent(Guid.NewGuid().ToString()), "Submission" },
            { new ByteArrayContent(bytes), field, name },
        };
        foreach (var (key, value) in fields ?? [])
            content.Add(new StringContent(value), key);
        var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = content };
        if (background)
            request.Headers.Add("Accept", "application/json");
        return await SendAsync(request);
    }

    /// <summary>A picture of one colour.</summary>
    public static byte[] Picture(int width, int height, SKEncodedImageFormat format = SKEncodedImageFormat.Jpeg)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.SteelBlue);
        using var data = bitmap.Encode(format, 80);
        return data.ToArray();
    }

    /// <summary>Sends the form of a page as it stands, with some fields changed.</summary>
    public async Task<HttpResponseMessage> SubmitAsync(
        string page,
        string formSelector,
        Dictionary<string, string> changes
    )
    {
        var document = await PageAsync(page);
        var form = (IHtmlFormElement)document.QuerySelector(formSelector)!;
        var fields = new Dictionary<string, string>();
        foreach (var element in form.Elements)
        {
            switch (element)
            {
                case IHtmlInputElement { Type: "radio" or "checkbox" } tick when tick.IsChecked:
                    fields[tick.Name!] = tick.Value;
                    break;
                case IHtmlInputElement { Type: "radio" or "checkbox" or "submit" }:
                    break;
                case IHtmlInputElement { Name: { } name } input:
                    fields[name] = input.Value;
                    break;
                case IHtmlTextAreaElement { Name: { } name } area:
                    fields[name] = area.Value;
                    break;
                case IHtmlSelectElement { Name: { } name } select:
                    fields[name] = select.Value ?? string.Empty;
                    break;
                default:
                    break;
            }
        }

        foreach (var (name, value) in changes)
            fields[name] = value;
        var target = form.GetAttribute("action");
        return await _http.PostAsync(
            string.IsNullOrEmpty(target) ? page : target,
            new FormUrlEncodedContent(fields),
            Cancel
        );
    }

    [GeneratedRegex("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"")]
    private static partial Regex Token();
}
