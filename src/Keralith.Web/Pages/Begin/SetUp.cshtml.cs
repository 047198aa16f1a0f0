using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Begin;

/// <summary>Sets the works up, by an address that the server gave out and that works once.</summary>
[AllowAnonymous]
public sealed class SetUpModel(Here here, SetUpStore setUp, SignInStore signIns, IPasswordHasher<Actor> hasher)
    : YardPage(here)
{
    /// <summary>The zones offered: those the machine knows, by name.</summary>
    public static IReadOnlyList<string> Zones { get; } =
    [
        "UTC",
        .. TimeZoneInfo
            .GetSystemTimeZones()
            .Select(z => z.Id)
            .Where(z => z.Contains('/', StringComparison.Ordinal) && !z.StartsWith("Etc/", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>Why the address sets nothing up; null when it does.</summary>
    public Refusal? Shut { get; private set; }

    public string? Token { get; private set; }

    /// <summary>What was typed, by field name, but for passwords.</summary>
    public IReadOnlyDictionary<string, string> Typed { get; private set; } = new Dictionary<string, string>();

    public IReadOnlyList<string> Books { get; private set; } = [];

    public async Task OnGetAsync(string? token)
    {
        Token = token;
        Shut = await setUp.RefusalOfAsync(token, Here.Now, Cancel);
    }

    public async Task<IActionResult> OnPostAsync(
        string? token,
        string[] book,
        string? password,
        string? again,
        [FromForm] NewWorksForm form
    )
    {
        (Token, Books, Typed) = (token, book, form.Fields());
        Shut = await setUp.RefusalOfAsync(token, Here.Now, Cancel);
        if (Shut is not null)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }

        var works = SetUp.Read(
            form.Works,
            form.Unit,
            form.Store,
            book,
            form.Zone,
            Accounts.Read(form.Username, form.Name, [Code.Of(Role.Admin)], form.Mail)
        );
        var refusal = works.Refusal
            ?? PasswordRule.RefusalOf(
                password,
                again,
                [works.Value.Name, works.Value.Administrator.Name, works.Value.Administrator.Username],
                CommonPasswords.Has
            );
        if (refusal is not null)
        {
            Refuse(refusal);
            return Page();
        }

        var nobody = new Actor(Guid.Empty, works.Value.Administrator.Username, string.Empty, Role.Admin);
        var done = await setUp.SetUpAsync(works.Value, hasher.HashPassword(nobody, password!), token, Here.Now, Cancel);
        if (!done.Ok)
        {
            Shut = done.Refusal;
            Response.StatusCode = StatusCodes.Status409Conflict;
            return Page();
        }

        await SignedIn.BeginAsync(HttpContext, done.Value, signIns, Here.Now);
        return Redirect("/begin");
    }
}

/// <summary>What set-up asks beside books and password.</summary>
public sealed record NewWorksForm(
    string? Works,
    string? Unit,
    string? Store,
    string? Zone,
    string? Name,
    string? Username,
    string? Mail
)
{
    /// <summary>The fields as they were typed.</summary>
    public Dictionary<string, string> Fields() =>
        new()
        {
            ["works"] = Works ?? string.Empty,
            ["unit"] = Unit ?? string.Empty,
            ["store"] = Store ?? string.Empty,
            ["zone"] = Zone ?? string.Empty,
            ["name"] = Name ?? string.Empty,
            ["username"] = Username ?? string.Empty,
            ["mail"] = Mail ?? string.Empty,
        };
}
