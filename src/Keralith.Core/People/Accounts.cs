using System.Net.Mail;
using System.Text.RegularExpressions;

namespace Keralith.Core.People;

/// <summary>When explanations stand open beside what an inspection asks.</summary>
public enum Explain
{
    [Code("always")]
    Always,

    /// <summary>Until they have signed a record of that kind of gear.</summary>
    [Code("first")]
    First,

    [Code("never")]
    Never,
}

/// <summary>What a person may have by mail beside what only a mail can bring.</summary>
public enum MailKind
{
    /// <summary>What is due, each morning there is something.</summary>
    [Code("reminders")]
    Reminders,

    /// <summary>What they are told on their pages, such as that a piece on their lift is on hold.</summary>
    [Code("notices")]
    Notices,
}

/// <summary>Somebody who is to sign in.</summary>
/// <param name="Username">The sign-in name, which the records keep for good.</param>
/// <param name="Name">The name people read.</param>
/// <param name="Roles">What they do in the yard; one at the least.</param>
/// <param name="Mail">Where mails to them go; empty: nowhere.</param>
public sealed record NewPerson(string Username, string Name, Roles Roles, string Mail);

/// <summary>A person as they stand, for what is decided about them.</summary>
/// <param name="Username">The sign-in name.</param>
/// <param name="Roles">Their roles.</param>
/// <param name="IsDisabled">Whether they were disabled.</param>
/// <param name="OtherAdministrators">How many others administer, can sign in and are not disabled.</param>
public sealed record PersonStanding(string Username, Roles Roles, bool IsDisabled, int OtherAdministrators);

/// <summary>
/// What is decided about who may sign in. People are disabled and never deleted: records name them. The last
/// administrator stays one.
/// </summary>
public static partial class Accounts
{
    /// <summary>The password that was asked to confirm something is not theirs.</summary>
    public static Refusal WrongPassword { get; } =
        new("The current password does not match, or there were too many tries.");

    /// <summary>The code of a second factor does not count.</summary>
    public static Refusal WrongCode { get; } =
        new("That code does not count, counted before, or there were too many tries. Wait for the next code.");

    /// <summary>The code that was to show that a phone has a new secret is another.</summary>
    public static Refusal NotItsCode { get; } =
        new("This is not the code that goes with the square. Wait for the next and type that.");

    /// <summary>A code came too long after the password.</summary>
    public static Refusal TooLate { get; } = new("That took too long. Sign in again.");

    private const int LongestName = 80;
    private const int LongestMail = 254;

    /// <summary>How long the address to set the works up works.</summary>
    public static TimeSpan SetUpLasts { get; } = TimeSpan.FromHours(1);

    /// <summary>How long an invitation works.</summary>
    public static TimeSpan InvitationLasts { get; } = TimeSpan.FromDays(7);

    /// <summary>How long the address to choose another password works.</summary>
    public static TimeSpan ResetLasts { get; } = TimeSpan.FromHours(4);

    /// <summary>Reads who is to sign in.</summary>
    public static Checked<NewPerson> Read(string? username, string? name, IEnumerable<string> roles, string? mail)
    {
        var sign = (username ?? string.Empty).Trim().ToLowerInvariant();
        if (!SignInName().IsMatch(sign))
            return new Refusal(
                "A sign-in name has 2 to 40 letters a to z, digits, dots, dashes or underscores, and begins with a letter."
            );
        if (sign == Itself)
            return new Refusal("That name is the program's own; choose another.");
        var named = ReadName(name);
        if (!named.Ok)
            return named.Refusal!;
        var held = ReadRoles(roles);
        if (!held.Ok)
            return held.Refusal!;
        var at = ReadMail(mail);
        return at.Ok ? new NewPerson(sign, named.Value, held.Value, at.Value) : at.Refusal!;
    }

    /// <summary>The name under which the program records what it does itself.</summary>
    public const string Itself = "keralith";

    /// <summary>
    /// Reads somebody whom the works' own directory signs in: their roles are those of this works among what it says they
    /// are; one at the least.
    /// </summary>
    public static Checked<NewPerson> OfDirectory(
        string? username,
        string? name,
        IEnumerable<string> roles,
        string? mail
    )
    {
        var known = roles.Where(r => Code.Find<Role>(r) is not null).Distinct().ToList();
        if (known.Count == 0)
            return NoRole;
        var at = ReadMail(mail);
        return Read(
            username?.Split('@')[0],
            name is null ? null : FreeText.Start(name, LongestName),
            known,
            at.Ok ? at.Value : null
        );
    }

    /// <summary>The directory gives somebody no role of this works.</summary>
    public static Refusal NoRole { get; } =
        Refusal.Forbidden("The directory gives you no role of this works. Ask whoever keeps the directory.");

    /// <summary>The directory did not sign somebody in.</summary>
    public static Refusal NotByDirectory { get; } =
        Refusal.Forbidden("The directory did not sign you in. Try again, or ask whoever keeps it.");

    /// <summary>Why the directory signs somebody in no more, or not under this name; null when it does.</summary>
    /// <param name="known">Them, as they were signed in before; null: they were not.</param>
    /// <param name="isTaken">Whether their sign-in name belongs to somebody else here.</param>
    public static Refusal? RefusalOfDirectory(PersonStanding? known, bool isTaken) =>
        known is { IsDisabled: true } ? Refusal.Forbidden("You were disabled here. Ask an administrator.")
        : known is null && isTaken
            ? Refusal.Forbidden(
                "Your sign-in name belongs to somebody here whom the directory does not know. Ask an administrator."
            )
        : null;

    /// <summary>The roles somebody holds when the directory gives them others: the last administrator stays one.</summary>
    public static Roles RolesByDirectory(PersonStanding known, Roles given) =>
        !given.Has(Role.Admin) && RefusalOfLast(known) is not null ? Roles.Of(given.Each.Append(Role.Admin)) : given;

    /// <summary>Reads the name people read.</summary>
    public static Checked<string> ReadName(string? name) =>
        name?.Trim() is { Length: > 0 and <= LongestName } text
            ? text
            : new Refusal($"Write the name, in up to {LongestName} letters.");

    /// <summary>Reads roles by their codes; one at the least.</summary>
    public static Checked<Roles> ReadRoles(IEnumerable<string> codes)
    {
        var read = codes.Select(c => Code.Find<Role>(c)).ToList();
        if (read.Contains(null))
            return new Refusal("There is no such role.");
        return read.Count == 0
            ? new Refusal("Choose what the person does: one role at the least.")
            : Roles.Of(read.Select(r => r!.Value));
    }

    /// <summary>Reads a mail address; nothing typed is none.</summary>
    public static Checked<string> ReadMail(string? mail)
    {
        var text = mail?.Trim() ?? string.Empty;
        return
            text.Length == 0
            || (text.Length <= LongestMail && MailAddress.TryCreate(text, out var read) && read.Address == text)
            ? text
            : new Refusal("Write the mail address as name@host, or leave it empty.");
    }

    /// <summary>Why nobody can be invited; null when they can.</summary>
    /// <param name="isTaken">Whether the sign-in name belongs to somebody.</param>
    public static Refusal? RefusalToInvite(NewPerson person, bool isTaken, Signer by) =>
        NotByAdministrator(by)
        ?? (isTaken ? new Refusal($"The sign-in name {person.Username} belongs to somebody already.") : null);

    /// <summary>Why a person's name, roles or address can't be changed; null when they can.</summary>
    /// <param name="whom">The person; null: there is none.</param>
    /// <param name="to">The roles they are to hold.</param>
    public static Refusal? RefusalToChange(PersonStanding? whom, Roles to, Signer by) =>
        NotByAdministrator(by)
        ?? (
            whom is null ? Refusals.NoSuchPerson
            : to.Has(Role.Admin) ? null
            : RefusalOfLast(whom)
        );

    /// <summary>Why a person can't be disabled; null when they can.</summary>
    public static Refusal? RefusalToDisable(PersonStanding? whom, Signer by) =>
        NotByAdministrator(by)
        ?? (
            whom is null ? Refusals.NoSuchPerson
            : whom.IsDisabled ? Refusal.Conflict($"{whom.Username} is disabled already.")
            : RefusalOfLast(whom)
        );

    /// <summary>Why a disabled person can't come back; null when they can.</summary>
    public static Refusal? RefusalToEnable(PersonStanding? whom, Signer by) =>
        NotByAdministrator(by)
        ?? (
            whom is null ? Refusals.NoSuchPerson
            : whom.IsDisabled ? null
            : Refusal.Conflict($"{whom.Username} is not disabled.")
        );

    /// <summary>Why a person's sign-ins can't be ended, or another password asked of them; null when they can.</summary>
    public static Refusal? RefusalToReset(PersonStanding? whom, Signer by) =>
        NotByAdministrator(by)
        ?? (
            whom is null ? Refusals.NoSuchPerson
            : whom.IsDisabled ? new Refusal($"{whom.Username} is disabled; enable them first.")
            : null
        );

    /// <summary>
    /// Whether somebody must set a second factor up before they go on: they release, condemn or administer, it is asked of
    /// those, and they have none.
    /// </summary>
    /// <param name="isAsked">Whether the site asks it.</param>
    public static bool LacksSecondFactor(bool isAsked, Roles roles, bool hasOne) =>
        isAsked && !hasOne && SecondFactorIsFor(roles);

    /// <summary>Whether a second factor may be asked of somebody: they release, condemn or administer.</summary>
    public static bool SecondFactorIsFor(Roles roles) =>
        roles.May(Right.CloseVerdict) || roles.May(Right.Condemn) || roles.May(Right.ManagePeople);

    /// <summary>Why it can't be set whether a second factor is asked; null when it can.</summary>
    /// <param name="ask">Whether it is to be asked.</param>
    /// <param name="hasOne">Whether whoever sets it has one: nobody shuts themself out.</param>
    public static Refusal? RefusalToAskFactor(bool ask, bool hasOne, Signer by) =>
        NotByAdministrator(by)
        ?? (ask && !hasOne ? new Refusal("Set your own second factor up first, then ask it of others.") : null);

    /// <summary>Why an address that works once works no more; null when it does.</summary>
    /// <param name="link">The address as it was made; null: there is none of that secret.</param>
    public static Refusal? RefusalOfLink(OneTimeLink? link, DateTimeOffset now) =>
        link is null ? new Refusal("This address is none that was given out. Ask for another.")
        : link.UsedAt is not null ? new Refusal("This address was used already; it works once. Ask for another.")
        : link.ExpiresAt <= now ? new Refusal("This address ran out. Ask for another.")
        : null;

    private static Refusal? NotByAdministrator(Signer by) =>
        by.Without(Right.ManagePeople, "Only an administrator says who may sign in.");

    private static Refusal? RefusalOfLast(PersonStanding whom) =>
        whom is { IsDisabled: false, OtherAdministrators: 0 } && whom.Roles.Has(Role.Admin)
            ? new Refusal($"{whom.Username} is the last administrator. Make another one first.")
            : null;

    [GeneratedRegex("^[a-z][a-z0-9._-]{1,39}$")]
    private static partial Regex SignInName();
}

/// <summary>An address that works once, until a moment.</summary>
/// <param name="ExpiresAt">From when on it works no more.</param>
/// <param name="UsedAt">When it was used; null: not yet.</param>
public sealed record OneTimeLink(DateTimeOffset ExpiresAt, DateTimeOffset? UsedAt);
