using Keralith.Core.People;

namespace Keralith.Data;

/// <summary>Who acts.</summary>
public sealed record Actor(Guid Id, string Username, string Name, Role Role);

/// <summary>Who acts, when, and under which client-made id: the same submission twice is one record.</summary>
/// <param name="Actor">Who.</param>
/// <param name="At">When.</param>
/// <param name="Submission">The client-made id.</param>
public sealed record Stamp(Actor Actor, DateTimeOffset At, Guid Submission);

/// <summary>That a command was carried out.</summary>
/// <param name="Repeated">Whether the same submission had been recorded before: nothing was recorded again.</param>
public sealed record Recorded(bool Repeated);
