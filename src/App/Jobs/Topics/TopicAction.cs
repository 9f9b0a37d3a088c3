namespace SteadyLintel.Jobs;

/// <summary>What can happen to a topic or a comment, in the words of BCF API 3.0 (topic and comment events, from memory).</summary>
public static class TopicAction
{
    /// <summary>A topic was made.</summary>
    public const string TopicCreated = "topic_created";

    /// <summary>Its title changed.</summary>
    public const string Title = "title_updated";

    /// <summary>Its description changed.</summary>
    public const string Description = "description_updated";

    /// <summary>Its status changed.</summary>
    public const string Status = "status_updated";

    /// <summary>Its type changed.</summary>
    public const string Type = "type_updated";

    /// <summary>Its priority changed.</summary>
    public const string Priority = "priority_updated";

    /// <summary>Its due date changed.</summary>
    public const string Due = "due_date_updated";

    /// <summary>It was handed to somebody.</summary>
    public const string Assigned = "assigned_to_updated";

    /// <summary>Its stage changed.</summary>
    public const string Stage = "stage_updated";

    /// <summary>It has a label more.</summary>
    public const string LabelAdded = "label_added";

    /// <summary>It has a label less.</summary>
    public const string LabelRemoved = "label_removed";

    /// <summary>A comment was written.</summary>
    public const string CommentCreated = "comment_created";

    /// <summary>A comment was edited; the value is its text before.</summary>
    public const string CommentText = "comment_text_updated";

    /// <summary>A comment was withdrawn; the value is its text before.</summary>
    public const string CommentDeleted = "comment_deleted";

    /// <summary>A view was added.</summary>
    public const string Viewpoint = "viewpoint_created";

    /// <summary>A file was attached.</summary>
    public const string Document = "document_reference_created";

    /// <summary>It came from a file, or a file changed it; the value is the file's name. Not of the standard.</summary>
    public const string Imported = "imported";

    /// <summary>It came from another server; the value is what people call it. Not of the standard.</summary>
    public const string Received = "received";

    /// <summary>A revision no longer has what it was made from; the value says which. Not of the standard.</summary>
    public const string CauseGone = "cause_gone";

    /// <summary>A revision has what it was made from again. Not of the standard.</summary>
    public const string CauseBack = "cause_back";
}
