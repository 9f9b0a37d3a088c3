namespace SteadyLintel.Jobs;

/// <summary>Somebody who writes or answers topics: a member of the job, a party, or somebody whom only a topic file names.</summary>
/// <param name="Id">The account; null where there is none.</param>
/// <param name="Name">The name; what the topic says where nobody is known by it.</param>
/// <param name="Party">The party; null for coordinators, readers and people outside.</param>
public sealed record TopicPerson(Guid? Id, string Name, Guid? Party);
