using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>A person as administrators see them.</summary>
/// <param name="HasPassword">Whether they have chosen a password.</param>
/// <param name="IsOfDirectory">Whether the works' own directory signs them in, and it alone.</param>
/// <param name="SeenAt">When they were last seen; null: never.</param>
/// <param name="SignIns">How many sign-ins are open.</param>
/// <param name="Mails">What they want by mail.</param>
/// <param name="Explain">When explanations stand open beside what is asked.</param>
/// <param name="Unit">The unit they like a bare figure taken in: <c>in</c> or <c>mm</c>; null: the site's.</param>
public sealed record PersonRow(
    Actor Actor,
    string Mail,
    bool HasPassword,
    bool IsOfDirectory,
    bool IsDisabled,
    bool HasFactor,
    DateTimeOffset? SeenAt,
    int SignIns,
    IReadOnlyList<MailKind> Mails,
    Explain Explain,
    string? Unit
)
{
    /// <summary>Whether they can't sign in yet: they have not chosen a password.</summary>
    public bool IsInvited => !HasPassword && !IsOfDirectory;

    internal const string Columns = """
        p.id, p.username, p.name, p.roles, p.mail, p.password_hash <> '' as password, p.disabled_at is not null as disabled,
        p.directory_subject is not null as directory,
        p.factor is not null as factor, case when p.mails then p.mail_kinds else array[]::text[] end as mails, p.explain, p.unit,
        (select max(s.seen_at) from sign_in s where s.person_id = p.id) as seen,
        (select count(*)::int from sign_in s where s.person_id = p.id and s.ended_at is null and s.begun_at > $1 and s.seen_at > $2) as open
        """;

    internal static PersonRow From(NpgsqlDataReader r) =>
        new(
            Actor.From(r),
            r.Get<string>("mail"),
            r.Get<bool>("password"),
            r.Get<bool>("directory"),
            r.Get<bool>("disabled"),
            r.Get<bool>("factor"),
            r.ValueOrNull<DateTimeOffset>("seen"),
            r.Get<int>("open"),
            [.. r.Get<string[]>("mails").Select(k => Code.Parse<MailKind>(k))],
            Code.Parse<Explain>(r.Get<string>("explain")),
            r.TextOrNull("unit")
        );
}
