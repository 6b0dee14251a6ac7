using System.Text.Json;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>All tasks of the bench and all commands. A new task is one line here; a new command is a line of its task.</summary>
public static class BenchRegistry
{
    /// <summary>The tasks, in the order of the job.</summary>
    public static IReadOnlyList<BenchTask> Tasks { get; } = [new AddTask(), new ArrangeTask(), new StitchTask(), new LettersTask(), new MonogramTask(), new BorderTask(), new NamesTask(), new ThreadsTask(), new HoopTask(), new CutTask(), new ClothTask(), new CheckTask()];

    /// <summary>The task that is open unless another is asked for.</summary>
    public static BenchTask UsualTask { get; } = Tasks.OfType<ArrangeTask>().Single();

    /// <summary>All commands by their names, those of the job as a whole and those of the tasks.</summary>
    public static IReadOnlyDictionary<string, Command> Commands { get; } = JobCommands.All.Concat(Tasks.SelectMany(t => t.Commands)).ToDictionary(c => c.Name);

    /// <summary>All keys for what only the screen does.</summary>
    public static IReadOnlyList<ScreenKey> ScreenKeys { get; } = [.. JobCommands.ScreenKeys, .. Tasks.SelectMany(t => t.ScreenKeys), .. Tasks.Where(t => t.Key is not null).Select(Opening)];

    /// <summary>The lines of the table of keys by their sections.</summary>
    public static ILookup<KeySection, (string Press, string Says)> KeyTable { get; } =
        ScreenKeys.Where(k => k.Says is not null).Select(k => (k.Section, (k.Shown ?? k.Press, k.Says!)))
            .Concat(Commands.Values.SelectMany(c => c.Keys).Select(k => (k.Section, (k.Press, k.Says))))
            .ToLookup(k => k.Section, k => k.Item2);

    /// <summary>The keys for the script, as JSON: by key what is posted or what the screen does.</summary>
    public static string KeysForScript { get; } = JsonSerializer.Serialize(
        Commands.Values.SelectMany(c => c.Keys.Select(k => (k.Press, Entry: (object)new { command = c.Name, values = k.Values, needsParts = k.NeedsParts })))
            .Concat(ScreenKeys.Select(k => (k.Press, Entry: (object)new { does = k.Does, with = k.With })))
            .ToDictionary(k => k.Press, k => k.Entry));

    /// <summary>The task of a name; the usual one where there is none.</summary>
    public static BenchTask Task(string? id) => Tasks.FirstOrDefault(t => t.Id == id) ?? UsualTask;

    private static ScreenKey Opening(BenchTask task) =>
        new($"{task.Key}", task.Name, KeySection.TasksAndHistory, "open") { With = task.Focus is { } focus ? [task.Id, focus] : [task.Id] };
}
