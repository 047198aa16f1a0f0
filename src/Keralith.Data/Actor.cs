using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>Who acts.</summary>
public sealed record Actor(Guid Id, string Username, string Name, Roles Roles)
{
    /// <summary>The unit they like a bare figure taken in: <c>in</c> or <c>mm</c>; null: the site's.</summary>
    public string? Unit { get; init; }

    /// <summary>A person's row: <c>id</c>, <c>username</c>, <c>name</c> and <c>roles</c>.</summary>
    internal static Actor From(NpgsqlDataReader r) =>
        new(r.Get<Guid>("id"), r.Get<string>("username"), r.Get<string>("name"), Roles.Parse(r.Get<string[]>("roles")));
}

/// <summary>
/// Who acts, when, and under which client-made id: the same submission twice is one record. An id belongs to one act by
/// one person with one content; anything else under it is refused.
/// </summary>
/// <param name="Actor">Who.</param>
/// <param name="At">When.</param>
/// <param name="Submission">The client-made id.</param>
public sealed record Stamp(Actor Actor, DateTimeOffset At, Guid Submission)
{
    /// <summary>A digest of all that was sent: where to, and what; null: the act and the person alone tell it.</summary>
    public byte[]? Content { get; init; }

    /// <summary>Whether the database's clock says when: the record is dated by one clock, whichever node took it.</summary>
    public bool ByDatabase { get; init; }
}

/// <summary>That a command was carried out.</summary>
/// <param name="Repeated">Whether the same submission had been recorded before: nothing was recorded again.</param>
public sealed record Recorded(bool Repeated);
