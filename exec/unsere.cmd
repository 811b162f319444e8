@echo off
rem The command `unsere` on Windows; written for it, not yet tried on one.
rem Put the folder of this file on the PATH. R itself is found by its entry there, or by R_HOME.
setlocal
set "R_DEFAULT_PACKAGES=methods,stats,utils"
set "UNSERE_R=Rscript.exe"
if defined R_HOME set "UNSERE_R=%R_HOME%\bin\Rscript.exe"
if exist "%~dp0..\Meta" for %%F in ("%~dp0..\..") do set "R_LIBS=%%~fF;%R_LIBS%"
"%UNSERE_R%" --no-save --no-restore --no-site-file --no-init-file "%~dp0start.R" %*
exit /b %ERRORLEVEL%
