using Microsoft.Extensions.DependencyInjection;

namespace SteadyLintel.Jobs;

/// <summary>The use cases of a job, for pages, programs and workers to be given.</summary>
public static class UseCases
{
    /// <summary>Adds them; whoever does so adds the database, the queue and the limits of space as well.</summary>
    public static IServiceCollection AddUseCases(this IServiceCollection services) =>
        services.AddCommands().AddQueries();

    private static IServiceCollection AddCommands(this IServiceCollection services) =>
        services
            .AddScoped<AccessTokens>()
            .AddScoped<Accounts>()
            .AddScoped<AmendmentEditing>()
            .AddScoped<ConvertDrawing>()
            .AddScoped<Details>()
            .AddScoped<HeldDeliveries>()
            .AddScoped<JobLibrary>()
            .AddScoped<JobReference>()
            .AddScoped<JobSetup>()
            .AddScoped<LevelEditing>()
            .AddScoped<MailQueue>()
            .AddScoped<Memberships>()
            .AddScoped<NameMatching>()
            .AddScoped<Orders>()
            .AddScoped<ReadAgain>()
            .AddScoped<Receiving>()
            .AddScoped<SettingOuts>()
            .AddScoped<SignInSessions>()
            .AddScoped<SourceLocks>()
            .AddScoped<StorageQuota>()
            .AddScoped<TopicDigest>()
            .AddScoped<TopicEditing>()
            .AddScoped<TopicExchange>()
            .AddScoped<TopicServers>()
            .AddScoped<TopicSync>()
            .AddScoped<TransmittalArchive>()
            .AddScoped<TransmittalIssue>();

    private static IServiceCollection AddQueries(this IServiceCollection services) =>
        services
            .AddScoped<AmendmentQuery>()
            .AddScoped<CombinedView>()
            .AddScoped<DeliveryQuery>()
            .AddScoped<DrawingDesk>()
            .AddScoped<ElementLife>()
            .AddScoped<JobAccess>()
            .AddScoped<KeptViews>()
            .AddScoped<OrderQuery>()
            .AddScoped<PeopleQuery>()
            .AddScoped<PropertyGridQuery>()
            .AddScoped<RevisionHistory>()
            .AddScoped<SettingOutQuery>()
            .AddScoped<SiteQuery>()
            .AddScoped<TopicQuery>()
            .AddSingleton<PreparedDrawings>()
            .AddSingleton<TopicPictures>()
            .AddScoped<TopicsOnDrawing>()
            .AddScoped<TopicViews>();
}
