using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>Makes a copy of the database soon after the start, and each day that the program runs. Where nothing has changed since the last copy, none is made.</summary>
public sealed class DailyBackup(Database database, TimeProvider clock, ILogger<DailyBackup> log) : BackgroundService
{
    private static readonly TimeSpan AfterTheStart = TimeSpan.FromSeconds(2);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await Task.Delay(AfterTheStart, clock, stoppingToken);
            while (true)
            {
                MakeOne();
                await Task.Delay(TimeSpan.FromDays(1), clock, stoppingToken);
            }
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
        {
            // The program stops.
        }
    }

    private void MakeOne()
    {
        try
        {
            if (HasChanged()) log.LogInformation("A copy of the data was made: {Copy}", Backups.Make(database, clock).Path);
        }
        catch (StorageException e)
        {
            log.LogWarning("No copy of the data was made. {Reason}", e.Message);
        }
    }

    private bool HasChanged()
    {
        if (Backups.In(database.Folder) is not [var newest, ..]) return true;
        var file = Path.Combine(database.Folder, Database.FileName);
        return new[] { file, file + "-wal" }.Where(File.Exists).Any(f => File.GetLastWriteTimeUtc(f) > newest.MadeAt.UtcDateTime);
    }
}
