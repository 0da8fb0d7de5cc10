from krill_log.command import command

command()
